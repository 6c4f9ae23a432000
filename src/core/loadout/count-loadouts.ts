import { requireKnown } from "../base/require-known.ts";
import type { Catalog } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import { modelFor } from "./solve/model.ts";
import { type Budget, Solver } from "./solve/solver.ts";

export interface CountOptions extends Pick<Context, "holdings" | "stats" | "signals"> {
  readonly body: string;
  readonly facts?: Character["facts"];
  /** Search steps before giving up. @defaultValue `50_000` */
  readonly budget?: number;
}

/** How many loadouts there are. */
export interface Count {
  readonly count: bigint;
  /** Whether there are exactly so many; `false` when there are at least so many. */
  readonly exact: boolean;
}

/**
 * Counts the valid loadouts of a body: all that differ in what is worn anywhere, appearance included.
 *
 * Slots that no open rule connects are counted by themselves and multiplied, and parts that rules do not distinguish are counted as one
 * and multiplied. R. J. Bayardo, J. D. Pehoushek, "Counting models using connected components" (2000).
 *
 * @throws MantleError `unknown-body`.
 * @example
 * countLoadouts(catalog, { body: "reed" }) // → { count: 1209600n, exact: true }
 */
export function countLoadouts(catalog: Catalog, options: CountOptions): Count {
  const body = requireKnown("body", options.body, catalog.bodies);
  const model = modelFor(catalog, body, undefined, options);
  const solver = new Solver(model, options.facts ?? {}, options);
  if (!solver.start()) return { count: 0n, exact: true };
  const budget = { steps: options.budget ?? 50_000 };
  const count = countOver(solver, [...model.variables.keys()], budget);
  return { count, exact: budget.steps > 0 };
}

/** Counts the answers of some variables, which nothing open connects with any other. */
function countOver(solver: Solver, variables: readonly number[], budget: Budget): bigint {
  let count = 1n;
  for (const { variables: connected, open } of components(solver, variables)) {
    count *= open.length === 0 ? free(solver, connected) : branch(solver, connected, open, budget);
    if (count === 0n) return 0n;
  }
  return count;
}

/** Every way to fill variables that nothing binds any more. */
function free(solver: Solver, variables: readonly number[]): bigint {
  return variables.reduce((product, variable) => product * BigInt(choices(solver, variable)), 1n);
}

function choices({ domains, model }: Solver, variable: number): number {
  const { values = [] } = model.variables[variable] ?? {};
  return domains.values(variable).reduce((sum, value) => {
    const { kind, parts = [] } = values[value] ?? {};
    return sum + (kind === "worn" ? parts.length : 1);
  }, 0);
}

/** Counts value by value of one variable. */
function branch(solver: Solver, connected: readonly number[], open: readonly number[], budget: Budget): bigint {
  const { domains } = solver;
  const [first, ...others] = connected.filter((variable) => !domains.isFixed(variable));
  if (first === undefined) return open.every((number) => solver.holdsExactly(number)) ? free(solver, connected) : 0n;
  const busy = (variable: number) => solver.constraintsOn(variable).filter((number) => open.includes(number)).length;
  const variable = others.reduce((best, next) => (busy(next) > busy(best) ? next : best), first);
  const before = domains.save();
  let count = 0n;
  for (const value of domains.values(variable)) {
    if (budget.steps <= 0) return count;
    solver.charge(budget);
    domains.fix(variable, value);
    if (solver.propagate()) count += countOver(solver, connected, budget);
    domains.restore(before);
  }
  return count;
}

/** Variables that open constraints connect, with those constraints. */
function components(solver: Solver, variables: readonly number[]) {
  const { constraints, domains, assumptions } = solver;
  const within = new Set(variables);
  const open = new Set(variables.flatMap((variable) => solver.constraintsOn(variable)));
  for (const number of open) if (constraints[number]?.isSettled(domains, assumptions)) open.delete(number);
  const found: { variables: readonly number[]; open: readonly number[] }[] = [];
  const reached = new Set<number>();
  for (const start of variables) {
    if (reached.has(start)) continue;
    const group = [start];
    const binding = new Set<number>();
    reached.add(start);
    for (const variable of group) {
      for (const number of solver.constraintsOn(variable)) {
        if (!open.has(number) || binding.has(number)) continue;
        binding.add(number);
        for (const next of constraints[number]?.variables ?? []) {
          if (reached.has(next) || !within.has(next)) continue;
          reached.add(next);
          group.push(next);
        }
      }
    }
    found.push({ variables: group, open: [...binding] });
  }
  return found;
}
