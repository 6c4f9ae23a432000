/**
 * The search over loadouts: the fewest edits that make one valid, random characters, and how many loadouts there are. It is an entry of
 * its own, so that a page that only checks and draws does not load it.
 *
 * @module zealous-mantle/solver
 */

// How many there are
export { type Count, type CountOptions, countLoadouts } from "./solver/count-loadouts.ts";
// In a worker
export {
  type AbortableSignal,
  type OpenSolverOptions,
  openSolver,
  type SolverWorker,
  type WorkerSolver,
} from "./solver/open-solver.ts";
// The fewest edits
export { completeLoadout, editsToWear, type RepairOptions, repairLoadout } from "./solver/repair-loadout.ts";
// At random
export { rollCharacter } from "./solver/roll-character.ts";
export { serveSolver } from "./solver/serve-solver.ts";
// The search, to pass to fittings, steps, options and checks
export { solver } from "./solver/solver.ts";
