import type { Message } from "../base/message.ts";
import { names } from "../base/messages/english-loadouts.ts";
import { MantleError } from "../base/problem.ts";
import { getOwn } from "../base/record.ts";
import { requireKnown } from "../base/require-known.ts";
import type { Catalog, CatalogIds } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import { characterIdForm, longestCharacterId, makeId } from "../character/make-id.ts";
import { withPacks } from "../character/needed-packs.ts";
import { applyEdit } from "./apply-edit.ts";

export interface CreateOptions<Ids extends CatalogIds = CatalogIds> {
  readonly body: Ids["body"];
  /** @defaultValue `""`, a character without a name yet */
  readonly name?: string | undefined;
  /**
   * Lower-case letters, digits and single hyphens, 64 at most.
   *
   * @defaultValue one that no other character has
   */
  readonly id?: string;
  /** Where the id comes from when none is given: at least 0, less than 1. @defaultValue the platform's source of chance */
  readonly random?: () => number;
  readonly facts?: Readonly<Record<string, string>>;
}

/**
 * Makes a new character that wears what the catalog's slots start with.
 *
 * Starting parts that do not fit the body, or that a rule keeps off, are left out.
 *
 * @throws MantleError `unknown-body`, `bad-id` or a refused name.
 * @example
 * const wren = createCharacter(catalog, { body: "reed", name: "Wren" })
 */
export function createCharacter<Ids extends CatalogIds>(catalog: Catalog<Ids>, options: CreateOptions<Ids>): Character {
  requireKnown("body", options.body, catalog.bodies);
  const id = options.id ?? makeId(options.random);
  if (id.length > longestCharacterId || !characterIdForm.test(id)) {
    throw new MantleError(
      "bad-id",
      `"${id}" cannot be the id of a character. Use lower-case letters, digits and single hyphens, ${longestCharacterId} at most.`,
    );
  }
  let character: Character = {
    mantle: "character/1",
    id,
    name: "",
    catalog: { id: catalog.id, version: catalog.version },
    body: options.body,
    loadout: {},
    colors: {},
    bag: {},
    facts: options.facts ?? {},
  };
  if (options.name !== undefined) {
    const named = applyEdit(catalog, character, { rename: options.name });
    if (!named.ok) {
      const because = named.problems.map(sayOfName).join(" ");
      throw new MantleError("bad-name", `Choose another name. ${because}`, named.problems);
    }
    character = named.character;
  }
  for (const slot of catalog.slots.values()) {
    if (slot.default === undefined || slot.required) continue;
    const started = applyEdit(catalog, character, { wear: slot.default, in: slot.id });
    if (started.ok && started.displaced.length === 0) character = started.character;
  }
  return withPacks(catalog, character);
}

/** What is wrong with a name, in English. What it speaks of are texts and numbers alone, so nothing of the languages is loaded for it. */
function sayOfName({ code, params }: Message): string {
  return (getOwn(names, code) ?? code).replace(/\{(\w+)\}/g, (_, name) => String(params[name]));
}
