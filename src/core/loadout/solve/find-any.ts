import type { Broken } from "../../rules/find-broken.ts";
import type { Budget, Solver } from "./solver.ts";

/** What a search came to: an answer, that there is none, or that the budget ran out. */
export type Found =
  | { readonly kind: "found"; readonly values: readonly number[] }
  | { readonly kind: "none" }
  | { readonly kind: "gave-up" };

/** How a search goes about; each may be left out. */
export interface Manner {
  /** Breaks ties between variables, 0 to 1. */
  readonly tieBreak?: () => number;
  /** The order in which the values of a variable are tried. */
  readonly order?: (variable: number, values: readonly number[]) => readonly number[];
  /** Whether an answer will do, judged exactly; when left out, one in which nothing is broken. */
  readonly accepts?: (values: readonly number[]) => boolean;
}

/** Finds any complete assignment that holds: depth first, the most constrained variable first. */
export function findAny(solver: Solver, budget: Budget, manner: Manner = {}): Found {
  if (!solver.propagate()) return { kind: "none" };
  if (budget.steps <= 0) return { kind: "gave-up" };
  solver.charge(budget);
  const { domains } = solver;
  const variable = solver.nextVariable(manner.tieBreak);
  if (variable === undefined) {
    const values = solver.model.variables.map((_, each) => domains.first(each));
    const holds = manner.accepts?.(values) ?? hasNone(solver.judge(values), solver);
    return holds ? { kind: "found", values } : { kind: "none" };
  }
  const before = domains.save();
  const values = domains.values(variable);
  for (const value of manner.order?.(variable, values) ?? values) {
    domains.fix(variable, value);
    const found = findAny(solver, budget, manner);
    domains.restore(before);
    if (found.kind !== "none") return found;
  }
  return { kind: "none" };
}

/** Whether nothing is broken; what is, counts as a constraint that failed. */
function hasNone(broken: readonly Broken[], solver: Solver): boolean {
  for (const each of broken) solver.countFailure(each);
  return broken.length === 0;
}
