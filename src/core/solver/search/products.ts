import type { NumberList } from "./number-list.ts";
import { fails, holds, type Literal, open, source, type Trail } from "./trail.ts";

/** A stat as what its choices give: `(base + Σ add) × Π times`, kept within bounds. */
export interface Stat {
  readonly base: number;
  readonly min: number;
  readonly max: number;
  readonly givers: readonly Giver[];
}

/** What a choice gives to a stat, by value. */
export interface Giver {
  readonly literals: readonly Literal[];
  readonly adds: readonly number[];
  readonly times: readonly number[];
  /** Whether what it gives may be missing all the same. */
  readonly loose?: boolean;
}

/** One side of a product: a stat or a number. */
export type Side = Stat | number;

/** That one side is no greater than another, where a literal holds. */
export interface Product {
  readonly lesser: Side;
  readonly greater: Side;
  readonly guard: Literal;
  /** By how much it may be greater all the same. */
  readonly slack: number;
}

interface Range {
  readonly low: number;
  readonly high: number;
}

/**
 * Bounds on stats that something multiplies, or that are kept within bounds of their own: by intervals, which are wide, but never
 * wrong.
 *
 * R. E. Moore, "Interval analysis" (1966).
 */
export class Products {
  readonly #all: Product[];
  /** By literal, the products to look at when it fails. */
  readonly #watchers = new Map<Literal, number[]>();
  readonly #queue = new Set<number>();

  constructor(all: readonly Product[] = []) {
    this.#all = [];
    for (const product of all) this.add(product);
  }

  add(product: Product): void {
    const number = this.#all.length;
    this.#all.push(product);
    this.#queue.add(number);
    for (const literal of [product.guard ^ 1, ...giversOf(product).flatMap(({ literals }) => literals)]) {
      const known = this.#watchers.get(literal);
      if (known === undefined) this.#watchers.set(literal, [number]);
      else known.push(number);
    }
  }

  follow(failing: Literal): void {
    if (this.#all.length === 0) return;
    for (const number of this.#watchers.get(failing) ?? none) this.#queue.add(number);
  }

  undo(): void {
    if (this.#queue.size > 0) this.#queue.clear();
  }

  /** Looks at the next that changed; whether there was one, or nothing when it cannot hold. */
  propagate(trail: Trail): boolean | undefined {
    if (this.#queue.size === 0) return false;
    for (const number of this.#queue) {
      this.#queue.delete(number);
      return this.#look(number, trail) ? true : undefined;
    }
    return false;
  }

  #look(number: number, trail: Trail): boolean {
    const product = this.#all[number] as Product;
    const { guard, slack } = product;
    const known = trail.values[guard];
    if (known === fails) return true;
    const lesser = measured(product.lesser, trail);
    const greater = measured(product.greater, trail);
    if (lesser.low - greater.high > slack) {
      if (known === open) {
        trail.assign(guard ^ 1, source.product, number);
        return true;
      }
      trail.conflict.set([guard ^ 1]);
      this.#because(number, trail.size, trail, trail.conflict);
      return false;
    }
    if (known === open) return true;
    for (const literals of new Set(giversOf(product).map((giver) => giver.literals))) {
      const [least, most] = [lesser.with(literals), greater.with(literals)];
      for (let at = 0; at < literals.length; at += 1) {
        const literal = literals[at] as Literal;
        if (trail.values[literal] !== open || least(at).low - most(at).high <= slack) continue;
        trail.assign(literal ^ 1, source.product, number);
      }
    }
    return true;
  }

  /** The failing literals that made a literal hold. */
  explain(literal: Literal, number: number, trail: Trail, into: NumberList): void {
    const { guard } = this.#all[number] as Product;
    if (literal !== (guard ^ 1)) into.push(guard ^ 1);
    this.#because(number, trail.positions[literal >> 1] as number, trail, into);
  }

  /** Whatever was known of its choices before a position. */
  #because(number: number, before: number, { values, positions }: Trail, into: NumberList): void {
    for (const { literals } of giversOf(this.#all[number] as Product)) {
      const chosen = literals.find((each) => values[each] === holds && (positions[each >> 1] as number) < before);
      if (chosen !== undefined) into.push(chosen ^ 1);
      else
        for (const each of literals)
          if (values[each] === fails && (positions[each >> 1] as number) < before) into.push(each);
    }
  }
}

const none: readonly number[] = [];

function giversOf({ lesser, greater }: Product): readonly Giver[] {
  const of = (side: Side) => (typeof side === "number" ? [] : side.givers);
  return [...of(lesser), ...of(greater)];
}

/** How low and how high a stat can come out. */
export function rangeOf(stat: Stat, trail: Trail): Range {
  return measured(stat, trail);
}

/** A side as it is now, and as it would be with each value of a choice. */
interface Measured extends Range {
  /** @returns the range with the value at a place of some literals. */
  with(literals: readonly Literal[]): (at: number) => Range;
}

function measured(side: Side, trail: Trail): Measured {
  if (typeof side === "number") {
    const fixed = { low: side, high: side };
    return { ...fixed, with: () => () => fixed };
  }
  const { base, min, max, givers } = side;
  const keep = (value: number) => Math.min(max, Math.max(min, Number.isNaN(value) ? 0 : value));
  const bounded = (low: number, high: number, fewest: number, most: number): Range => ({
    low: keep(Math.min(low * fewest, low * most)),
    high: keep(Math.max(high * fewest, high * most)),
  });
  const adds = givers.map((giver) => within(giver, giver.adds, trail, 0));
  const times = givers.map((giver) => within(giver, giver.times, trail, 1));
  const total = (without: number) => {
    let [low, high, fewest, most] = [base, base, 1, 1];
    for (let at = 0; at < givers.length; at += 1) {
      if (at === without) continue;
      low += (adds[at] as Range).low;
      high += (adds[at] as Range).high;
      fewest *= (times[at] as Range).low;
      most *= (times[at] as Range).high;
    }
    return [low, high, fewest, most] as const;
  };
  const whole = bounded(...total(-1));
  return {
    ...whole,
    with(literals) {
      const own = givers.findIndex((giver) => giver.literals === literals);
      const giver = givers[own];
      if (giver === undefined) return () => whole;
      const [low, high, fewest, most] = total(own);
      return (at) => {
        const add = giver.adds[at] ?? 0;
        const factor = giver.times[at] ?? 1;
        const isLoose = giver.loose === true;
        return bounded(
          low + (isLoose ? Math.min(0, add) : add),
          high + (isLoose ? Math.max(0, add) : add),
          fewest * (isLoose ? Math.min(1, factor) : factor),
          most * (isLoose ? Math.max(1, factor) : factor),
        );
      };
    },
  };
}

function within(
  { literals, loose = false }: Giver,
  numbers: readonly number[],
  { values }: Trail,
  neutral: number,
): Range {
  let low = loose ? neutral : Number.POSITIVE_INFINITY;
  let high = loose ? neutral : Number.NEGATIVE_INFINITY;
  for (let at = 0; at < literals.length; at += 1) {
    if (values[literals[at] as number] === fails) continue;
    const number = numbers[at] as number;
    if (number < low) low = number;
    if (number > high) high = number;
  }
  return { low, high };
}
