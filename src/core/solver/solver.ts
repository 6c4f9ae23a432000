import type { Solver } from "../loadout/solver.ts";
import { mendingBySearch } from "./mend-finding.ts";
import { complete, repair, wear } from "./repair-loadout.ts";
import { rollCharacter } from "./roll-character.ts";

/**
 * The search over loadouts, to pass to what needs it.
 *
 * @example
 * const fitting = openFitting(catalog, wren, { holdings, drafts: "settle", solver })
 * checkLoadout(catalog, wren, { solver }) // fixes also put things on
 */
export const solver: Solver = Object.freeze<Solver>({
  repair,
  complete,
  editsToWear: wear,
  roll: rollCharacter,
  mending: mendingBySearch,
});
