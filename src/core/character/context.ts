import type { Access, CatalogIds } from "../catalog/model/catalog.ts";

/** What a player knows about and owns: how each part stands with them, where that differs from the catalog. */
export type Holdings = Readonly<Record<string, Access>>;

/** The same, of a catalog whose parts the compiler knows. */
export type HoldingsOf<Ids extends CatalogIds> = string extends Ids["part"]
  ? Holdings
  : Readonly<Partial<Record<Ids["part"], Access>>>;

/** A fact of the running game. */
export type Signal = string | number | boolean;

/** What the game asks of names. */
export interface NameLimits {
  /** Names of others; case, accents' writing and width make no difference. */
  readonly taken?: readonly string[];
  /** The game's own check: returns one sentence why a name cannot be used, or nothing when it can. */
  readonly check?: (name: string) => string | undefined;
}

/** What the game knows and the character does not: everything here may be left out. */
export interface Context {
  /**
   * Where gear comes from when it is put on. `"open"`: gear that is not in the bag is handed out new, as while a character is
   * being created. `"bag"`: only gear that is carried can be put on, as in play.
   *
   * @defaultValue `"open"`
   */
  readonly wardrobe?: "open" | "bag";
  /** Who owns what. Ownership is not looked at when left out; `{}` takes every part as the catalog has it. */
  readonly holdings?: Holdings;
  /** Added to what the body has, by stat: levels, training, a curse. */
  readonly stats?: Readonly<Record<string, number>>;
  /** Facts of the running game that rules may ask about. */
  readonly signals?: Readonly<Record<string, Signal>>;
  /** What names are to keep to, besides those of the catalog. */
  readonly names?: NameLimits;
  /** How many stacks the bag holds; no limit when left out. */
  readonly bagPlaces?: number;
}
