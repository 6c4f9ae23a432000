/**
 * The player's document: what one player chose, and nothing that can be computed from it.
 *
 * A slot that is missing from `loadout` shows its default when it is required; a channel missing from `colors` shows its
 * default ramp. Ids that today's catalog does not know are kept, so that content which is missing for a while comes back.
 */
export interface Character {
  readonly mantle: "character/1";
  /** Lower-case letters, digits and hyphens; unique among the characters of a profile. */
  readonly id: string;
  readonly name: string;
  /** The catalog the choices were made from, and by id the versions of the packs that any of them comes with. */
  readonly catalog: {
    readonly id: string;
    readonly version: string;
    readonly packs?: Readonly<Record<string, string>>;
  };
  readonly body: string;
  /** Part ids by slot id. */
  readonly loadout: Readonly<Record<string, string>>;
  /** Ramp ids by channel id. */
  readonly colors: Readonly<Record<string, string>>;
  /** Carried parts, by part id: how many are in each of its stacks, `{ "flare": [20, 5] }`. No stack is empty. */
  readonly bag: Readonly<Record<string, readonly number[]>>;
  /** The game's own answers, such as a trade or an origin. */
  readonly facts: Readonly<Record<string, string>>;
  /** What an outfit conceals, while there is any: the outfit, and part ids by slot id. */
  readonly concealed?: { readonly by: string; readonly gear: Readonly<Record<string, string>> };
}
