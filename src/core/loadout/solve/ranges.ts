import type { Assumptions } from "./assumptions.ts";
import type { Domains } from "./domains.ts";
import type { Model } from "./model.ts";

/** How low and how high a stat can come out. */
export interface Range {
  readonly low: number;
  readonly high: number;
}

/** What each value of some variables gives to one stat. */
export class Ranges {
  readonly variables: readonly number[];
  readonly #stat: number;
  readonly #min: number;
  readonly #max: number;
  /** By the place of the variable in `variables`, then by value. */
  readonly #adds: readonly Float64Array[];
  readonly #times: readonly Float64Array[];
  readonly #place: ReadonlyMap<number, number>;
  readonly #scale: number;
  /** By the place of the variable, those that can make up the set it stands for, if it stands for one. */
  readonly #members: readonly (ReadonlySet<number> | undefined)[];
  /** Whether nothing multiplies, so that bounds can be moved value by value. */
  readonly #isSum: boolean;

  constructor(model: Model, stat: number) {
    const gifts = model.variables.map(({ values }) =>
      values.map(({ gives }) => gives.find((gift) => gift.stat === stat) ?? { add: 0, times: 1 }),
    );
    const giving = [...gifts.keys()].filter((variable) =>
      gifts[variable]?.some(({ add, times }) => add !== 0 || times !== 1),
    );
    const { min, max } = model.catalog.compiled.stats[stat] ?? {
      min: Number.NEGATIVE_INFINITY,
      max: Number.POSITIVE_INFINITY,
    };
    this.#stat = stat;
    this.#min = min;
    this.#max = max;
    this.variables = giving;
    this.#place = new Map(giving.map((variable, at) => [variable, at]));
    this.#adds = giving.map((variable) => Float64Array.from(gifts[variable] ?? [], ({ add }) => add));
    this.#times = giving.map((variable) => Float64Array.from(gifts[variable] ?? [], ({ times }) => times));
    this.#members = giving.map((variable) => membersOf(model, variable));
    const greatest = (of: Float64Array) => of.reduce((most, each) => Math.max(most, Math.abs(each)), 0);
    this.#scale =
      (1 + this.#adds.reduce((sum, adds) => sum + greatest(adds), 0)) *
      this.#times.reduce((product, times) => product * Math.max(1, greatest(times)), 1);
    this.#isSum = this.#times.every((times) => times.every((factor) => factor === 1));
  }

  /** How low and how high the stat can come out, with one variable left out where one is named. */
  measure(domains: Domains, assumptions: Assumptions, without = -1): Range {
    const sum = this.#sums(domains, assumptions, without);
    if (this.#isSum) return this.#bounded(sum);
    let fewest = 1;
    let most = 1;
    for (const [at, variable] of this.variables.entries()) {
      if (variable === without) continue;
      const times = this.#times[at];
      if (times === undefined) continue;
      const isLoose = this.#members[at]?.has(without) === true;
      fewest *= isLoose ? Math.min(1, domains.least(variable, times)) : domains.least(variable, times);
      most *= isLoose ? Math.max(1, domains.greatest(variable, times)) : domains.greatest(variable, times);
    }
    return this.#bounded({
      low: Math.min(sum.low * fewest, sum.low * most),
      high: Math.max(sum.high * fewest, sum.high * most),
    });
  }

  /** The variables on which it hangs whether sets are worn without a variable. */
  alliesOf(variable: number): readonly number[] {
    return this.#members.flatMap((members) => (members?.has(variable) === true ? [...members] : []));
  }

  /** What a value of a variable gives. */
  gift(variable: number, value: number): number {
    return this.#adds[this.#place.get(variable) ?? -1]?.[value] ?? 0;
  }

  /** What there is without any part. */
  base(assumptions: Assumptions): number {
    return assumptions.base[this.#stat] ?? 0;
  }

  #sums(domains: Domains, assumptions: Assumptions, without: number): Range {
    let low = assumptions.base[this.#stat] ?? 0;
    let high = low;
    for (const [at, variable] of this.variables.entries()) {
      if (variable === without) continue;
      const adds = this.#adds[at];
      if (adds === undefined) continue;
      // Without that one, the set may not be worn.
      const isLoose = this.#members[at]?.has(without) === true;
      low += isLoose ? Math.min(0, domains.least(variable, adds)) : domains.least(variable, adds);
      high += isLoose ? Math.max(0, domains.greatest(variable, adds)) : domains.greatest(variable, adds);
    }
    return { low, high };
  }

  #bounded({ low, high }: Range): Range {
    const keep = (value: number) => Math.min(this.#max, Math.max(this.#min, value));
    return { low: keep(low), high: keep(high) };
  }

  /** Sums nearer than this may be equal but for the order of summing; whoever finds an answer judges it exactly. */
  slack(assumptions: Assumptions): number {
    return 1e-9 * (this.#scale + Math.abs(assumptions.base[this.#stat] ?? 0));
  }

  /** Whether, held against this, the sum counts as it is: its own bounds make no difference. */
  isOpenBelow(greater: Ranges | number, domains: Domains, assumptions: Assumptions): boolean {
    if (typeof greater !== "number") return this.#isFree(domains, assumptions);
    return this.#isSum && greater >= this.#min && greater < this.#max;
  }

  isOpenAbove(lesser: Ranges | number, domains: Domains, assumptions: Assumptions): boolean {
    if (typeof lesser !== "number") return this.#isFree(domains, assumptions);
    return this.#isSum && lesser > this.#min && lesser <= this.#max;
  }

  /** Whether this is a sum that cannot reach its bounds. */
  #isFree(domains: Domains, assumptions: Assumptions): boolean {
    if (!this.#isSum) return false;
    const { low, high } = this.#sums(domains, assumptions, -1);
    return low >= this.#min && high <= this.#max;
  }
}

/** The variables that can make up the set that a variable stands for. */
function membersOf(model: Model, variable: number): ReadonlySet<number> | undefined {
  const { set } = model.variables[variable] ?? {};
  return set && new Set(set.marks.flatMap((mark) => (model.holders[mark] ?? []).map((holder) => holder.variable)));
}
