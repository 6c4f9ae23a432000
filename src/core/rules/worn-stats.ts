import { getOrInsert } from "../base/get-or-insert.ts";
import { getOwn } from "../base/record.ts";
import type { Body, CompiledRules, Part, Threshold } from "../catalog/model/catalog.ts";

/** Who knows whether a set is worn: so many of its marks are there, also without what is in a slot. */
interface Sets {
  isReached(set: Threshold, without: number): boolean;
}

/**
 * What a body and worn parts give to each weighed stat.
 *
 * Stats are summed in the order of the slots each time they are asked for, so that no sum depends on the order in which parts were put
 * on, to the last bit.
 */
export class WornStats {
  readonly #stats: CompiledRules["stats"];
  readonly #bonuses: CompiledRules["bonuses"];
  /** How many slots there are. */
  readonly #slots: number;
  /** What there is of each stat without any part. */
  readonly #base: Float64Array;
  /** `add` and `times` of what is worn, by stat and then slot. */
  readonly #adds: Float64Array;
  readonly #products: Float64Array;
  /** Whether anything multiplies a stat now. */
  #isMultiplied = false;
  /** What each body has of each stat. */
  readonly #ofBodies = new Map<string, Float64Array>();

  constructor({ stats, bonuses }: Pick<CompiledRules, "stats" | "bonuses">, slots: number) {
    this.#stats = stats;
    this.#bonuses = bonuses;
    this.#slots = slots;
    this.#base = new Float64Array(stats.length);
    this.#adds = new Float64Array(stats.length * slots);
    this.#products = new Float64Array(stats.length * slots).fill(1);
  }

  /** Whether anything worn multiplies a stat. */
  get isMultiplied(): boolean {
    return this.#isMultiplied;
  }

  /** What there is of a stat without any part. */
  baseOf(number: number): number {
    return this.#base[number] as number;
  }

  /** Takes everything off and takes on a body, and what the game adds. */
  reset(body: Body | undefined, more: Readonly<Record<string, number>> | undefined): void {
    this.#adds.fill(0);
    if (this.#isMultiplied) this.#products.fill(1);
    this.#isMultiplied = false;
    this.#base.set(getOrInsert(this.#ofBodies, body?.id ?? "", () => this.#numbered(body?.stats ?? {})));
    if (more === undefined) return;
    const added = this.#numbered(more);
    for (let number = 0; number < added.length; number += 1)
      this.#base[number] = (this.#base[number] as number) + (added[number] as number);
  }

  #numbered(stats: Readonly<Record<string, number>>): Float64Array {
    return Float64Array.from(this.#stats, ({ id }) => getOwn(stats, id) ?? 0);
  }

  /** Counts what a part in a slot gives, or takes it away. */
  set(slot: number, { compiled: { gives } }: Part, isWorn: boolean): void {
    for (let number = 0; number < gives.length; number += 1) {
      const { stat, add, times } = gives[number] as (typeof gives)[number];
      const at = stat * this.#slots + slot;
      this.#adds[at] = isWorn ? add : 0;
      if (times === 1) continue;
      this.#products[at] = isWorn ? times : 1;
      this.#isMultiplied = true;
    }
  }

  /**
   * The value of a stat: `(base + Σ add) × Π times`, with what worn sets give, bounded.
   *
   * @param without - a slot whose part is left out, with the sets that it completes; -1 for none.
   */
  valueOf(number: number, without: number, sets: Sets): number {
    const start = number * this.#slots;
    const end = start + this.#slots;
    const left = without < 0 ? -1 : start + without;
    const adds = this.#adds;
    let sum = this.#base[number] as number;
    for (let at = start; at < end; at += 1) if (at !== left) sum += adds[at] as number;
    let product = 1;
    if (this.#isMultiplied) {
      const products = this.#products;
      for (let at = start; at < end; at += 1) if (at !== left) product *= products[at] as number;
    }
    const bonuses = this.#bonuses[number] ?? none;
    for (let at = 0; at < bonuses.length; at += 1) {
      const bonus = bonuses[at] as (typeof bonuses)[number];
      if (!sets.isReached(bonus, without)) continue;
      sum += bonus.add;
      product *= bonus.times;
    }
    const { min, max } = this.#stats[number] ?? unbounded;
    return Math.min(max, Math.max(min, sum * product));
  }
}

const none: readonly never[] = [];
const unbounded = { min: Number.NEGATIVE_INFINITY, max: Number.POSITIVE_INFINITY };
