import type { Domains } from "./domains.ts";
import type { Ground } from "./ground.ts";
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
  readonly #least: number;
  readonly #most: number;
  /** By the place of the variable in `variables`, then by value. */
  readonly #adds: readonly Float64Array[];
  readonly #times: readonly Float64Array[];
  readonly #place: ReadonlyMap<number, number>;
  readonly #scale: number;
  /** Whether nothing multiplies, so that bounds can be moved value by value. */
  readonly #isSum: boolean;

  constructor(model: Model, stat: number) {
    const gifts = model.variables.map(({ values }) =>
      values.map(({ gives }) => gives.find((gift) => gift.stat === stat) ?? { add: 0, times: 1 }),
    );
    const giving = [...gifts.keys()].filter((variable) =>
      gifts[variable]?.some(({ add, times }) => add !== 0 || times !== 1),
    );
    const { least, most } = model.catalog.compiled.stats[stat] ?? {
      least: Number.NEGATIVE_INFINITY,
      most: Number.POSITIVE_INFINITY,
    };
    this.#stat = stat;
    this.#least = least;
    this.#most = most;
    this.variables = giving;
    this.#place = new Map(giving.map((variable, at) => [variable, at]));
    this.#adds = giving.map((variable) => Float64Array.from(gifts[variable] ?? [], ({ add }) => add));
    this.#times = giving.map((variable) => Float64Array.from(gifts[variable] ?? [], ({ times }) => times));
    const greatest = (of: Float64Array) => of.reduce((most, each) => Math.max(most, Math.abs(each)), 0);
    this.#scale =
      (1 + this.#adds.reduce((sum, adds) => sum + greatest(adds), 0)) *
      this.#times.reduce((product, times) => product * Math.max(1, greatest(times)), 1);
    this.#isSum = this.#times.every((times) => times.every((factor) => factor === 1));
  }

  /** How low and how high the stat can come out, with one variable left out where one is named. */
  measure(domains: Domains, ground: Ground, without = -1): Range {
    const sum = this.#sums(domains, ground, without);
    if (this.#isSum) return this.#bounded(sum);
    let fewest = 1;
    let most = 1;
    for (const [at, variable] of this.variables.entries()) {
      if (variable === without) continue;
      const range = rangeOver(this.#times[at], domains.values(variable));
      fewest *= range.low;
      most *= range.high;
    }
    return this.#bounded({
      low: Math.min(sum.low * fewest, sum.low * most),
      high: Math.max(sum.high * fewest, sum.high * most),
    });
  }

  /**
   * By how much one stat is above another at best, and at best with one variable fixed.
   *
   * Where both are sums within their bounds the gap is summed variable by variable, so that a part that gives to both (a
   * satchel that weighs and helps to carry) counts for what it does to the gap.
   */
  static gap(lesser: Ranges | number, greater: Ranges | number, domains: Domains, ground: Ground) {
    const low = typeof lesser === "number" ? lesser : lesser.measure(domains, ground).low;
    const high = typeof greater === "number" ? greater : greater.measure(domains, ground).high;
    const apart = low - high;
    const open =
      (typeof lesser === "number" || lesser.#isOpenBelow(greater, domains, ground)) &&
      (typeof greater === "number" || greater.#isOpenAbove(lesser, domains, ground));
    if (!open) {
      return { least: apart, with: () => apart };
    }
    const baseOf = (range: Ranges | number) => (typeof range === "number" ? range : (ground.base[range.#stat] ?? 0));
    const give = (range: Ranges | number, variable: number, value: number) =>
      typeof range === "number" ? 0 : (range.#adds[range.#place.get(variable) ?? -1]?.[value] ?? 0);
    const own = (variable: number, value: number) => give(lesser, variable, value) - give(greater, variable, value);
    const variables = new Set([lesser, greater].flatMap((range) => (typeof range === "number" ? [] : range.variables)));
    const best = new Map<number, number>();
    let least = baseOf(lesser) - baseOf(greater);
    for (const variable of variables) {
      let smallest = Number.POSITIVE_INFINITY;
      for (const value of domains.values(variable)) smallest = Math.min(smallest, own(variable, value));
      best.set(variable, smallest);
      least += smallest;
    }
    return {
      least,
      with: (variable: number, value: number) => least - (best.get(variable) ?? 0) + own(variable, value),
    };
  }

  #sums(domains: Domains, ground: Ground, without: number): Range {
    let low = ground.base[this.#stat] ?? 0;
    let high = low;
    for (const [at, variable] of this.variables.entries()) {
      if (variable === without) continue;
      const range = rangeOver(this.#adds[at], domains.values(variable));
      low += range.low;
      high += range.high;
    }
    return { low, high };
  }

  #bounded({ low, high }: Range): Range {
    const keep = (value: number) => Math.min(this.#most, Math.max(this.#least, value));
    return { low: keep(low), high: keep(high) };
  }

  /** Sums nearer than this may be equal but for the order of summing; whoever finds an answer judges it exactly. */
  slack(ground: Ground): number {
    return 1e-9 * (this.#scale + Math.abs(ground.base[this.#stat] ?? 0));
  }

  /** Whether, held against this, the sum counts as it is: its own bounds make no difference. */
  #isOpenBelow(greater: Ranges | number, domains: Domains, ground: Ground): boolean {
    if (typeof greater !== "number") return this.#isFree(domains, ground);
    return this.#isSum && greater >= this.#least && greater < this.#most;
  }

  #isOpenAbove(lesser: Ranges | number, domains: Domains, ground: Ground): boolean {
    if (typeof lesser !== "number") return this.#isFree(domains, ground);
    return this.#isSum && lesser > this.#least && lesser <= this.#most;
  }

  /** Whether this is a sum that cannot reach its bounds. */
  #isFree(domains: Domains, ground: Ground): boolean {
    if (!this.#isSum) return false;
    const { low, high } = this.#sums(domains, ground, -1);
    return low >= this.#least && high <= this.#most;
  }
}

function rangeOver(gifts: Float64Array | undefined, values: readonly number[]): Range {
  let low = Number.POSITIVE_INFINITY;
  let high = Number.NEGATIVE_INFINITY;
  for (const value of values) {
    const gift = gifts?.[value] ?? 0;
    if (gift < low) low = gift;
    if (gift > high) high = gift;
  }
  return { low, high };
}
