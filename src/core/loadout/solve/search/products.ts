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
    if (excess(product, trail) > slack) {
      if (known === open) {
        trail.assign(guard ^ 1, source.product, number);
        return true;
      }
      trail.conflict = [guard ^ 1];
      this.#because(number, trail.size, trail, trail.conflict);
      return false;
    }
    if (known === open) return true;
    for (const giver of giversOf(product)) {
      for (const [at, literal] of giver.literals.entries()) {
        if (trail.values[literal] !== open || excess(product, trail, { giver, at }) <= slack) continue;
        trail.assign(literal ^ 1, source.product, number);
      }
    }
    return true;
  }

  /** The failing literals that made a literal hold. */
  explain(literal: Literal, number: number, trail: Trail, into: Literal[]): void {
    const { guard } = this.#all[number] as Product;
    if (literal !== (guard ^ 1)) into.push(guard ^ 1);
    this.#because(number, trail.positions[literal >> 1] ?? 0, trail, into);
  }

  /** Whatever was known of its choices before a position. */
  #because(number: number, before: number, { values, positions }: Trail, into: Literal[]): void {
    for (const { literals } of giversOf(this.#all[number] as Product)) {
      const chosen = literals.find((each) => values[each] === holds && (positions[each >> 1] ?? 0) < before);
      if (chosen !== undefined) into.push(chosen ^ 1);
      else
        for (const each of literals)
          if (values[each] === fails && (positions[each >> 1] ?? 0) < before) into.push(each);
    }
  }
}

const none: readonly number[] = [];

function giversOf({ lesser, greater }: Product): readonly Giver[] {
  const of = (side: Side) => (typeof side === "number" ? [] : side.givers);
  return [...of(lesser), ...of(greater)];
}

/** A value of a choice that is taken for chosen. */
interface Choice {
  readonly giver: Giver;
  readonly at: number;
}

/** By how much the lesser is above the greater at best. */
function excess({ lesser, greater }: Product, trail: Trail, choice?: Choice): number {
  const low = typeof lesser === "number" ? lesser : rangeOf(lesser, trail, choice).low;
  return low - (typeof greater === "number" ? greater : rangeOf(greater, trail, choice).high);
}

/** How low and how high a stat can come out. */
export function rangeOf({ base, min, max, givers }: Stat, trail: Trail, choice?: Choice): Range {
  let [low, high, fewest, most] = [base, base, 1, 1];
  for (const giver of givers) {
    const adds = within(giver, giver.adds, trail, choice, 0);
    const times = within(giver, giver.times, trail, choice, 1);
    low += adds.low;
    high += adds.high;
    fewest *= times.low;
    most *= times.high;
  }
  const keep = (value: number) => Math.min(max, Math.max(min, Number.isNaN(value) ? 0 : value));
  return {
    low: keep(Math.min(low * fewest, low * most)),
    high: keep(Math.max(high * fewest, high * most)),
  };
}

function within(
  { literals, loose = false }: Giver,
  numbers: readonly number[],
  { values }: Trail,
  choice: Choice | undefined,
  neutral: number,
): Range {
  let low = loose ? neutral : Number.POSITIVE_INFINITY;
  let high = loose ? neutral : Number.NEGATIVE_INFINITY;
  const isFixed = choice?.giver.literals === literals;
  for (let at = 0; at < literals.length; at += 1) {
    if (isFixed ? at !== choice.at : values[literals[at] as number] === fails) continue;
    const number = numbers[at] as number;
    if (number < low) low = number;
    if (number > high) high = number;
  }
  return { low, high };
}
