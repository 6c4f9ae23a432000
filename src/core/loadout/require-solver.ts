import { MantleError } from "../base/problem.ts";
import type { Solver } from "./solver.ts";

/** The search, where it was passed. @throws MantleError `no-solver` where it was not. */
export function requireSolver(solver: Solver | undefined, what: string): Solver {
  if (solver !== undefined) return solver;
  throw new MantleError(
    "no-solver",
    `${what} needs the search. Import { solver } from "zealous-mantle/solver" and pass it as "solver".`,
  );
}
