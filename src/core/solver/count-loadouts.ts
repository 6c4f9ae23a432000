import { requireKnown } from "../base/require-known.ts";
import type { Catalog } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import type { SearchLimits } from "../loadout/solver.ts";
import { type Binding, bindingsOf } from "./bindings.ts";
import { budgetOf } from "./budget-of.ts";
import { LoadoutSearch } from "./loadout-search.ts";
import { modelFor } from "./model.ts";
import { type Budget, stepsOfLook } from "./search/budget.ts";
import { fails, type Literal, open } from "./search/trail.ts";

export interface CountOptions extends Pick<Context, "holdings" | "stats" | "signals">, SearchLimits {
  readonly body: string;
  readonly facts?: Character["facts"];
}

/** How many loadouts there are. */
export interface Count {
  /** So many at least. */
  readonly count: bigint;
  /** So many at most. */
  readonly upperBound: bigint;
  /** Whether there are exactly so many, since nothing was left uncounted. */
  readonly isProven: boolean;
}

/**
 * Counts the valid loadouts of a body: all that differ in what is worn anywhere, appearance included.
 *
 * Slots that no open rule connects are counted by themselves and multiplied, parts that rules do not distinguish are counted as
 * one and multiplied, and what was counted once is not counted again. R. J. Bayardo, J. D. Pehoushek, "Counting models using
 * connected components" (2000); T. Sang, F. Bacchus, P. Beame, H. Kautz, T. Pitassi, "Combining component caching and clause
 * learning for effective model counting" (2004).
 *
 * @throws MantleError `unknown-body`.
 * @example
 * countLoadouts(catalog, { body: "reed" }) // → { count: 1112716606464n, upperBound: 1112716606464n, isProven: true }
 */
export function countLoadouts(catalog: Catalog, options: CountOptions): Count {
  const body = requireKnown("body", options.body, catalog.bodies);
  const model = modelFor(catalog, body, undefined, options);
  const search = new LoadoutSearch(model, options.facts ?? {}, options);
  if (!search.engine.settle()) return { count: 0n, upperBound: 0n, isProven: true };
  const { least, most } = new Counter(search, budgetOf(options)).count();
  return { count: least, upperBound: most, isProven: least === most };
}

/** How many there are, at least and at most. */
interface Bounds {
  readonly least: bigint;
  readonly most: bigint;
}

/** Results that are kept; when there are more, all are forgotten. */
const mostKept = 200_000;

class Counter {
  readonly #search: LoadoutSearch;
  readonly #budget: Budget;
  readonly #values: readonly (readonly Literal[])[];
  readonly #bindings: readonly Binding[];
  /** By choice, the numbers of its bindings. */
  readonly #bindingsOn: readonly (readonly number[])[];
  readonly #kept = new Map<string, bigint>();
  #sinceLook = 0;

  constructor(search: LoadoutSearch, budget: Budget) {
    this.#search = search;
    this.#budget = budget;
    this.#values = search.program.program.table.values;
    this.#bindings = bindingsOf(search.program.program);
    const on: number[][] = this.#values.map(() => []);
    for (const [number, { choices }] of this.#bindings.entries())
      for (const choice of choices) on[choice]?.push(number);
    this.#bindingsOn = on;
  }

  count(): Bounds {
    return this.#countOver([...this.#values.keys()]);
  }

  /** Counts the answers of some choices, which nothing open connects with any other. */
  #countOver(choices: readonly number[]): Bounds {
    let [least, most] = [1n, 1n];
    for (const { connected, open: bound } of this.#components(choices)) {
      const part = bound.length === 0 ? exactly(this.#free(connected)) : this.#branch(connected, bound);
      least *= part.least;
      most *= part.most;
      if (most === 0n) break;
    }
    return { least, most };
  }

  /** Every way to fill choices that nothing binds any more. */
  #free(choices: readonly number[]): bigint {
    return choices.reduce((product, choice) => product * BigInt(this.#waysOf(choice)), 1n);
  }

  #waysOf(choice: number): number {
    const { values = [] } = this.#search.model.variables[choice] ?? {};
    const { values: known } = this.#search.engine.trail;
    return (this.#values[choice] ?? []).reduce((sum, literal, value) => {
      if (known[literal] === fails) return sum;
      const { kind, parts = [] } = values[value] ?? {};
      return sum + (kind === "worn" ? parts.length : 1);
    }, 0);
  }

  /** Counts value by value of one choice. */
  #branch(connected: readonly number[], bound: readonly number[]): Bounds {
    const { engine } = this.#search;
    const { trail } = engine;
    const left = connected.filter((choice) => engine.left(choice) > 1);
    const [first, ...others] = left;
    if (first === undefined) return exactly(this.#holdsExactly() ? this.#free(connected) : 0n);
    const key = this.#keyOf(connected, bound);
    const known = this.#kept.get(key);
    if (known !== undefined) return exactly(known);
    const busy = (choice: number) => (this.#bindingsOn[choice] ?? []).filter((number) => bound.includes(number)).length;
    const chosen = others.reduce((best, next) => (busy(next) > busy(best) ? next : best), first);
    let [least, most] = [0n, 0n];
    for (const literal of this.#values[chosen] ?? []) {
      if (trail.values[literal] !== open) continue;
      const ended = this.#isEnded();
      if (engine.push(literal)) {
        const part = ended ? { least: 0n, most: this.#free(connected) } : this.#countOver(connected);
        least += part.least;
        most += part.most;
      }
      engine.pop();
    }
    if (least === most) {
      if (this.#kept.size >= mostKept) this.#kept.clear();
      this.#kept.set(key, least);
    }
    return { least, most };
  }

  /** Takes a step; whether that was the last. */
  #isEnded(): boolean {
    const budget = this.#budget;
    budget.steps -= 1;
    this.#sinceLook += 1;
    if (this.#sinceLook < stepsOfLook) return budget.steps < 0;
    this.#sinceLook = 0;
    if (budget.isOver?.() === true) budget.steps = -1;
    return budget.steps < 0;
  }

  /** Everything that the number of answers hangs on: what is left of each choice, and what matters of those that are decided. */
  #keyOf(connected: readonly number[], bound: readonly number[]): string {
    const { engine } = this.#search;
    const { values } = engine.trail;
    let key = "";
    for (const choice of connected) {
      key += `${choice}:`;
      // Of choices that are decided, only how many ways they stand for matters here; their weights are in what the bindings say.
      if (engine.left(choice) === 1) key += `=${this.#waysOf(choice)}`;
      else
        for (const [value, literal] of (this.#values[choice] ?? []).entries())
          if (values[literal] !== fails) key += ` ${value}`;
      key += ";";
    }
    for (const number of bound) key += `${number}/${this.#bindings[number]?.rest(engine.trail) ?? ""};`;
    return key;
  }

  /** Whether what is decided holds to the last bit, where sums are too near to their bounds to tell. */
  #holdsExactly(): boolean {
    const { engine } = this.#search;
    const { values } = engine.trail;
    const shown = this.#values.map((literals) => literals.findIndex((literal) => values[literal] !== fails));
    const isDecided = (choice: number) => engine.left(choice) === 1;
    return this.#search.judge(shown).every((broken) => !this.#search.concernedBy(broken).every(isDecided));
  }

  /** Choices that open bindings connect, with those bindings. */
  #components(choices: readonly number[]) {
    const { trail } = this.#search.engine;
    const within = new Set(choices);
    const unsettled = new Map<number, boolean>();
    const isOpen = (number: number) => {
      const known = unsettled.get(number);
      if (known !== undefined) return known;
      const isUnsettled = this.#bindings[number]?.isSettled(trail) === false;
      unsettled.set(number, isUnsettled);
      return isUnsettled;
    };
    const found: { readonly connected: readonly number[]; readonly open: readonly number[] }[] = [];
    const reached = new Set<number>();
    for (const start of choices) {
      if (reached.has(start)) continue;
      const group = [start];
      const binding = new Set<number>();
      reached.add(start);
      for (const choice of group) {
        for (const number of this.#bindingsOn[choice] ?? []) {
          if (binding.has(number) || !isOpen(number)) continue;
          binding.add(number);
          for (const next of this.#bindings[number]?.choices ?? []) {
            if (reached.has(next) || !within.has(next)) continue;
            reached.add(next);
            group.push(next);
          }
        }
      }
      found.push({ connected: group, open: [...binding] });
    }
    return found;
  }
}

function exactly(count: bigint): Bounds {
  return { least: count, most: count };
}
