import { type Assignment, conflictSet } from "./conflict-set.ts";
import type { Budget, Solver } from "./solver.ts";

/** What a search for the nearest came to. */
export interface Nearest {
  /** The value of each variable; `undefined` when there is no answer, or when none was found. */
  readonly values: readonly number[] | undefined;
  /** Whether it is proved that there is no nearer answer, or no answer at all. */
  readonly complete: boolean;
}

/**
 * Finds the valid loadout in which the fewest variables leave what they may stay at.
 *
 * Tries 0, 1, 2 … changes, so the first answer is a smallest one. Each time it takes what is broken while all stay that may,
 * and changes one of its conflict set.
 *
 * @param stay - by variable, a mask of the values that are no change.
 */
export function findNearest(solver: Solver, stay: readonly Uint32Array[], budget: Budget): Nearest {
  if (!solver.propagate()) return { values: undefined, complete: true };
  const root = solver.domains.save();
  const { length } = solver.model.variables;
  for (let limit = moved(solver, stay).length; limit <= length; limit += 1) {
    const search = new Search(solver, stay, limit, budget);
    const values = search.run();
    solver.domains.restore(root);
    if (values !== undefined) return { values, complete: true };
    if (search.gaveUp) return { values: undefined, complete: false };
    // No branch was cut for the limit's sake, so a greater limit finds nothing more.
    if (!search.wasLimited) return { values: undefined, complete: true };
  }
  return { values: undefined, complete: true };
}

/** The variables that cannot stay. */
function moved({ domains }: Solver, stay: readonly Uint32Array[]): readonly number[] {
  return stay.flatMap((mask, variable) => (domains.meets(variable, mask) ? [] : [variable]));
}

class Search {
  gaveUp = false;
  wasLimited = false;
  readonly #solver: Solver;
  readonly #stay: readonly Uint32Array[];
  readonly #limit: number;
  readonly #budget: Budget;

  constructor(solver: Solver, stay: readonly Uint32Array[], limit: number, budget: Budget) {
    this.#solver = solver;
    this.#stay = stay;
    this.#limit = limit;
    this.#budget = budget;
  }

  run(): readonly number[] | undefined {
    if (this.#budget.steps <= 0) {
      this.gaveUp = true;
      return undefined;
    }
    this.#solver.charge(this.#budget);
    const changed = this.#settle();
    if (changed === undefined) return undefined;
    const open = this.#openOf(changed);
    return open === undefined ? this.#mend(changed.length) : this.#tryValues(open);
  }

  /** Propagates; when as many variables have moved as may, the others stay. Those that have moved, or nothing after a failure. */
  #settle(): readonly number[] | undefined {
    const { domains } = this.#solver;
    for (;;) {
      if (!this.#solver.propagate()) return undefined;
      const changed = moved(this.#solver, this.#stay);
      if (changed.length > this.#limit) {
        this.wasLimited = true;
        return undefined;
      }
      if (changed.length < this.#limit) return changed;
      for (const [variable, mask] of this.#stay.entries()) {
        if (!domains.meets(variable, mask) || domains.isWithin(variable, mask)) continue;
        this.wasLimited = true;
        domains.keep(variable, mask);
      }
      if (domains.changed.length === 0) return changed;
    }
  }

  /** A variable that has moved and is still open, the one with the fewest values first. */
  #openOf(changed: readonly number[]): number | undefined {
    const { domains } = this.#solver;
    let best: number | undefined;
    for (const variable of changed) {
      if (domains.isFixed(variable)) continue;
      if (best === undefined || domains.size(variable) < domains.size(best)) best = variable;
    }
    return best;
  }

  #tryValues(variable: number): readonly number[] | undefined {
    const { domains } = this.#solver;
    const before = domains.save();
    for (const value of domains.values(variable)) {
      domains.fix(variable, value);
      const found = this.run();
      if (found !== undefined || this.gaveUp) return found;
      domains.restore(before);
    }
    return undefined;
  }

  /** Keeps all that may stay, and changes one of the conflict set of what is broken then. */
  #mend(changes: number): readonly number[] | undefined {
    const { domains } = this.#solver;
    const candidate = this.#candidate();
    const broken = this.#solver.judge(candidate.values);
    if (broken.length === 0) return candidate.values;
    const sets = broken.map((each) =>
      [...new Set(conflictSet(each, candidate))].filter((variable) => this.#canMove(variable)),
    );
    sets.sort((one, other) => one.length - other.length);
    if (sets[0]?.length === 0) return undefined;
    if (changes + countDisjoint(sets) > this.#limit) {
      this.wasLimited = true;
      return undefined;
    }
    const before = domains.save();
    const stays: number[] = [];
    for (const variable of sets[0] ?? []) {
      const mask = this.#stay[variable];
      if (mask === undefined) continue;
      for (const other of stays) domains.keep(other, this.#stay[other] ?? mask);
      domains.drop(variable, mask);
      const found = this.run();
      if (found !== undefined || this.gaveUp) return found;
      domains.restore(before);
      stays.push(variable);
    }
    return undefined;
  }

  /** Whether a variable that stays so far may still move. */
  #canMove(variable: number): boolean {
    const { domains } = this.#solver;
    const mask = this.#stay[variable];
    return mask !== undefined && domains.meets(variable, mask) && !domains.isWithin(variable, mask);
  }

  /** What may stay stays. What is not chosen is issued or covered, as the choices have it. */
  #candidate(): Assignment {
    const { domains, model } = this.#solver;
    const chosen = this.#stay.map((mask, variable) => {
      const staying = domains.values(variable).find((value) => (((mask[value >>> 5] ?? 0) >>> (value & 31)) & 1) === 1);
      return staying ?? domains.first(variable);
    });
    const state = this.#solver.state(chosen);
    const values = chosen.map((value, variable) => {
      const choices = model.variables[variable]?.values ?? [];
      const { kind } = choices[value] ?? {};
      if (kind !== "issued" && kind !== "covered") return value;
      const actual = state.issued[variable] === 1 ? "issued" : "covered";
      return choices.findIndex((each) => each.kind === actual);
    });
    return { model, values, state };
  }
}

/** How many of some sets have no member in common, taken greedily: each of them needs a change of its own. */
function countDisjoint(sets: readonly (readonly number[])[]): number {
  const taken = new Set<number>();
  let count = 0;
  for (const set of sets) {
    if (set.some((member) => taken.has(member))) continue;
    count += 1;
    for (const member of set) taken.add(member);
  }
  return count;
}
