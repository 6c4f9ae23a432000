import type { Catalog } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import type { LoadoutProblem } from "../character/edit.ts";
import { findProblems } from "./find-problems.ts";
import { mendingBySearch } from "./mend-finding.ts";

/**
 * Finds everything that is wrong with a character's loadout and colors, all at once, each finding with edits that mend it.
 *
 * It does not look at the name, the answers, the sizes of stacks, the places of the bag, the catalog's version, or what is concealed, and
 * takes a character of the right form: `judgeCharacter` judges what a stranger sends. With `holdings`, everything worn and carried has to
 * be owned. Costs what is worn, whatever the size of the catalog.
 *
 * @returns every finding; empty when nothing is wrong. Content the catalog does not know is a warning: it is kept in the
 * character and ignored.
 * @example
 * checkLoadout(catalog, wren) // → [] when nothing is wrong
 */
export function checkLoadout(catalog: Catalog, character: Character, context: Context = {}): readonly LoadoutProblem[] {
  return findProblems(catalog, character, context, mendingBySearch);
}
