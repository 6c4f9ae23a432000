import { getOrInsert } from "../../base/get-or-insert.ts";
import type { Character } from "../../character/character.ts";
import type { Context } from "../../character/context.ts";
import { type Broken, findBroken } from "../../rules/find-broken.ts";
import { LoadoutState } from "../../rules/loadout-state.ts";
import { type Assumptions, assumptionsOf } from "./assumptions.ts";
import { type Constraint, constraintsOf, type Origin } from "./constraints.ts";
import { Domains } from "./domains.ts";
import type { Model } from "./model.ts";

/**
 * How much searching may be done: it is counted down, and shared by whoever is handed it. A step is a decision, or looking at so many
 * variables that it takes as long: so a budget bounds the time, and the same budget always leads to the same answer.
 */
export interface Budget {
  steps: number;
}

/** Variables that are looked at in the time of a decision; some twenty microseconds. */
const looksOfStep = 500;

/** Whether a constraint stands for what was found broken. */
function standsFor(origin: Origin, broken: Broken, domains: Domains): boolean {
  switch (broken.kind) {
    case "rule":
    case "never":
      return origin.kind === "rule" && origin.rule === broken.rule;
    case "need":
      return (
        origin.kind === "need" &&
        origin.slot === broken.slot &&
        origin.stat === broken.stat &&
        domains.has(broken.slot, origin.value)
      );
    case "empty":
      return origin.kind === "required" && origin.slot === broken.slot;
    case "misplaced":
    case "misfit":
    case "taken-twice":
      return false;
  }
}

/** Constraints, and by variable the numbers of those that speak of it. */
interface Net {
  readonly constraints: readonly Constraint[];
  readonly watchers: readonly (readonly number[])[];
}

const nets = new WeakMap<Model, Net>();

function netOf(model: Model, constraints: readonly Constraint[]): Net {
  const watchers: number[][] = model.variables.map(() => []);
  for (const [number, { variables }] of constraints.entries()) {
    for (const variable of variables) watchers[variable]?.push(number);
  }
  return { constraints, watchers };
}

/**
 * Searches the loadouts of a model: finite domains as bit sets, values left out by propagation, and conflicts that say where
 * to search on.
 *
 * Constraints gain weight each time they fail, and the variable with the fewest values for the weight of its constraints comes
 * first. F. Boussemart, F. Hemery, C. Lecoutre, L. Sais, "Boosting systematic search by weighting constraints" (2004).
 */
export class Solver {
  readonly model: Model;
  readonly constraints: readonly Constraint[];
  readonly domains: Domains;
  readonly assumptions: Assumptions;
  /** By variable, the weight of its constraints: 1 each at first. */
  readonly #weightOn: Float64Array;
  /** 1 for each constraint that is not looked at. */
  readonly waived: Uint8Array;
  /** The constraints that took part in leaving values out, in the order in which they first did, when it is asked for. */
  trace: Set<number> | undefined;
  readonly #watchers: readonly (readonly number[])[];
  readonly #state: LoadoutState;
  readonly #isQueued: Uint8Array;
  /** Variables of constraints that were looked at since a budget was last charged. */
  #looks = 0;

  constructor(model: Model, facts: Character["facts"], context: Context, extra: readonly Constraint[] = []) {
    this.model = model;
    const net = getOrInsert(nets, model, () => netOf(model, constraintsOf(model)));
    const { constraints, watchers } = extra.length === 0 ? net : netOf(model, [...net.constraints, ...extra]);
    this.constraints = constraints;
    this.#watchers = watchers;
    this.domains = new Domains(model.variables.map(({ values }) => values.length));
    this.assumptions = assumptionsOf(model, facts, context);
    this.#weightOn = Float64Array.from(watchers, ({ length }) => length);
    this.waived = new Uint8Array(this.constraints.length);
    this.#isQueued = new Uint8Array(this.constraints.length);
    this.#state = new LoadoutState(model.catalog);
  }

  /** Looks at every constraint once, and then at those whose variables change. Whether anything can still be found. */
  start(): boolean {
    const all = this.constraints.map((_, number) => number);
    for (const number of all) this.#isQueued[number] = 1;
    return this.#run(all);
  }

  /** Looks at the constraints of variables that changed, until nothing changes any more. */
  propagate(): boolean {
    return this.#run([]);
  }

  #run(queue: number[]): boolean {
    const { domains } = this;
    let failing = -1;
    for (let at = 0; ; at += 1) {
      for (let variable = domains.nextChanged(); variable !== undefined; variable = domains.nextChanged()) {
        for (const number of this.#watchers[variable] ?? []) {
          if (this.#isQueued[number] === 1) continue;
          this.#isQueued[number] = 1;
          queue.push(number);
        }
      }
      const number = queue[at];
      if (domains.failed || number === undefined) break;
      this.#isQueued[number] = 0;
      if (this.waived[number] === 1) continue;
      failing = number;
      const constraint = this.constraints[number];
      this.#looks += constraint?.variables.length ?? 0;
      constraint?.propagate(domains, this.assumptions);
      if (this.trace !== undefined && (domains.failed || domains.changed.length > 0)) this.trace.add(number);
    }
    for (const number of queue) this.#isQueued[number] = 0;
    if (!domains.failed) return true;
    if (failing >= 0) this.#weigh(failing);
    return false;
  }

  /** Takes a decision, and what was looked at since the last one, off a budget. */
  charge(budget: Budget): void {
    budget.steps -= 1 + Math.floor(this.#looks / looksOfStep);
    this.#looks = 0;
  }

  /** A constraint that failed gains weight. */
  #weigh(constraint: number): void {
    for (const variable of this.constraints[constraint]?.variables ?? []) {
      this.#weightOn[variable] = (this.#weightOn[variable] ?? 0) + 1;
    }
  }

  /** The open variable to search on next, if there is one: few values, much trouble. */
  nextVariable(tieBreak?: () => number): number | undefined {
    let best: number | undefined;
    let bestRank = Number.POSITIVE_INFINITY;
    for (let variable = 0; variable < this.model.decisions; variable += 1) {
      const size = this.domains.size(variable);
      if (size < 2) continue;
      const rank = (size / (1 + (this.#weightOn[variable] ?? 0))) * (tieBreak === undefined ? 1 : 1 + tieBreak());
      if (rank >= bestRank) continue;
      best = variable;
      bestRank = rank;
    }
    return best;
  }

  /** The constraints that speak of a variable, by number. */
  constraintsOn(variable: number): readonly number[] {
    return this.#watchers[variable] ?? [];
  }

  /** What does not hold with these values, by variable, judged as `checkLoadout` judges, except what is waived. */
  judge(values: readonly number[]): readonly Broken[] {
    const found = findBroken(this.state(values));
    this.#looks += values.length * (1 + found.length);
    if (found.length === 0 || !this.waived.includes(1)) return found;
    return found.filter((broken) => !this.#isWaived(broken));
  }

  /** What is worn with these values. It is the caller's only until the next call. */
  state(values: readonly number[]): LoadoutState {
    const { variables, body } = this.model;
    const state = this.#state;
    state.reset({ body: body.id, facts: this.assumptions.facts }, this.assumptions.context);
    for (const [variable, { slot, values: choices }] of variables.entries()) {
      const value = choices[values[variable] ?? -1];
      const part = value?.parts[0];
      if (slot !== undefined && value?.kind === "worn" && part !== undefined) state.put(slot.number, part);
      else if (value?.kind === "answer") for (const mark of value.marks) state.counts[mark] = 1;
    }
    state.issue();
    return state;
  }

  /** Counts what was found broken in a complete assignment as a constraint that failed. */
  countFailure(broken: Broken): void {
    for (const number of this.#constraintsFor(broken)) {
      this.#weigh(number);
      this.trace?.add(number);
    }
  }

  /** Whether a constraint whose variables are all fixed holds, to the last bit. */
  holdsExactly(number: number): boolean {
    const values = this.model.variables.map((_, variable) => this.domains.first(variable));
    return !findBroken(this.state(values)).some((broken) => this.#constraintsFor(broken).includes(number));
  }

  #constraintsFor(broken: Broken): readonly number[] {
    return [...this.constraints.keys()].filter((number) => {
      const origin = this.constraints[number]?.origin;
      return origin !== undefined && standsFor(origin, broken, this.domains);
    });
  }

  #isWaived(broken: Broken): boolean {
    return this.#constraintsFor(broken).some((number) => this.waived[number] === 1);
  }
}
