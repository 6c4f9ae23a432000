import { getOrInsert } from "../base/get-or-insert.ts";
import type { CompiledBound } from "../catalog/model/catalog.ts";
import type { Model } from "./model.ts";
import type { Giver, Side } from "./search/products.ts";
import type { ProgramBuilder } from "./search/program.ts";
import { type Column, columnOf } from "./search/sums.ts";
import { always, type Literal } from "./search/trail.ts";

/** What the values of a variable give to one stat. */
interface Gifts {
  readonly variable: number;
  readonly adds: readonly number[];
  readonly times: readonly number[];
}

/** Bounds on stats, as sums where nothing multiplies, and as products elsewhere. */
export class StatTerms {
  readonly #model: Model;
  readonly #base: Float64Array;
  readonly #builder: ProgramBuilder;
  readonly #gifts = new Map<number, readonly Gifts[]>();
  readonly #columns = new Map<string, Column>();
  /** By variable that stands for a set, the variables that can make it up. */
  readonly #members: readonly (ReadonlySet<number> | undefined)[];

  constructor(model: Model, base: Float64Array, builder: ProgramBuilder) {
    this.#model = model;
    this.#base = base;
    this.#builder = builder;
    this.#members = model.variables.map(
      ({ set }) =>
        set && new Set(set.marks.flatMap((mark) => (model.holders[mark] ?? []).map((holder) => holder.variable))),
    );
  }

  /** A column that weighs where a literal holds. */
  readonly binary = (literal: Literal, weight: number): Column =>
    getOrInsert(this.#columns, `${literal} ${weight}`, () => columnOf([literal, literal ^ 1], [weight, 0]));

  /** A sum that keeps within a bound while a guard holds. */
  readonly sum = (columns: readonly Column[], bound: number, guard: Literal): void => {
    const kept = columns.filter(({ weights }) => weights[0] !== weights.at(-1));
    const fixed = columns.reduce(
      (all, { weights }) => (weights[0] === weights.at(-1) ? all + (weights[0] ?? 0) : all),
      0,
    );
    const tight = rounded(kept, bound - fixed);
    const most = kept.reduce((all, { weights }) => all + (weights.at(-1) ?? 0), 0);
    if (most <= tight) return;
    if (guard === always) this.#builder.sums.push({ columns: kept, bound: tight });
    else {
      const spare = most - tight;
      this.#builder.sums.push({ columns: [...kept, columnOf([guard, guard ^ 1], [spare, 0])], bound: most });
    }
  };

  atMost(stat: number, bound: CompiledBound, guard: Literal, how: "or-equal" | "strictly" = "or-equal"): void {
    this.#compare({ stat }, bound, guard, how);
  }

  atLeast(stat: number, bound: CompiledBound, guard: Literal, how: "or-equal" | "strictly" = "or-equal"): void {
    this.#compare(bound, { stat }, guard, how);
  }

  /** A variable has a value that needs something only where the others give it. */
  need(variable: number, stat: number, needed: readonly (number | undefined)[], guard: Literal): void {
    const { min, max } = this.#boundsOf(stat);
    const base = this.#base[stat] as number;
    const others = this.#giftsOf(stat).filter((gifts) => gifts.variable !== variable);
    const literals = this.#builder.values[variable] ?? [];
    const open = needed.map((bound, value) => {
      if (bound === undefined || bound <= min) return undefined;
      if (bound <= max) return bound;
      this.#builder.require([guard ^ 1, (literals[value] as number) ^ 1]);
      return undefined;
    });
    if (open.every((bound) => bound === undefined)) return;
    const members = others.flatMap((gifts) =>
      this.#isLoose(gifts, variable) ? [...(this.#members[gifts.variable] ?? [])] : [],
    );
    if (members.length > 0)
      this.#builder.inexact.push([...new Set([variable, ...members, ...others.map((gifts) => gifts.variable)])]);
    if (this.#isSum(stat)) {
      const columns = others.map((gifts) => this.#column(gifts, -1, this.#isLoose(gifts, variable)));
      const least = columns.reduce((all, { weights }) => all + (weights.at(-1) ?? 0), 0);
      // Without a need, it is as if there were one that is always met.
      const free = base - least;
      const own = columnOf(
        literals,
        literals.map((_, value) => Math.max(free, open[value] ?? free)),
      );
      this.sum([...columns, own], base, guard);
      return;
    }
    for (const [value, bound] of open.entries()) {
      if (bound === undefined) continue;
      const both = this.#builder.all([guard, literals[value] as number]);
      const givers = others.map((gifts) => this.#giver(gifts, this.#isLoose(gifts, variable)));
      this.#product(bound, { base, min, max, givers }, both);
    }
  }

  /** One side is no greater than the other, while a guard holds. */
  #compare(lesser: CompiledBound, greater: CompiledBound, guard: Literal, how: "or-equal" | "strictly"): void {
    if (typeof lesser === "number" && typeof greater === "number") return;
    const known = this.#decided(lesser, greater, how);
    if (known === true) return;
    if (known === false) {
      this.#builder.require([guard ^ 1]);
      return;
    }
    const sides = [lesser, greater].flatMap((side) => (typeof side === "number" ? [] : [side.stat]));
    const isPlain =
      sides.every((stat) => this.#isSum(stat)) && (sides.length === 1 || sides.every((stat) => this.#isFree(stat)));
    const scale = sides.reduce((all, stat) => all + this.#scaleOf(stat), 1);
    const strict = how === "strictly" ? 4e-9 * scale : 0;
    if (!isPlain) {
      this.#product(
        this.#sideOf(lesser),
        this.#sideOf(greater),
        guard,
        how === "strictly" ? -1e-9 * scale : 1e-9 * scale,
      );
      return;
    }
    const bound = this.#constant(greater) - this.#constant(lesser) - strict;
    const columns = this.#difference(lesser, greater);
    this.sum(columns, bound, guard);
    if (typeof greater === "number" && typeof lesser === "object")
      this.#narrow(lesser.stat, { most: rounded(columns, bound), guard });
    else if (typeof lesser === "number" && typeof greater === "object")
      this.#narrow(greater.stat, { least: -rounded(columns, bound), guard });
  }

  readonly #narrowed = new Map<
    number,
    { readonly most?: number; readonly least?: number; readonly guard: Literal }[]
  >();

  /** Bounds of one stat that leave nothing between them never hold together, which no single sum would show. */
  #narrow(stat: number, bound: { readonly most?: number; readonly least?: number; readonly guard: Literal }): void {
    const known = getOrInsert(this.#narrowed, stat, () => []);
    for (const other of known) {
      const most = bound.most ?? other.most;
      const least = bound.least ?? other.least;
      if (most !== undefined && least !== undefined && least > most + 1e-9 * this.#scaleOf(stat))
        this.#builder.require([bound.guard ^ 1, other.guard ^ 1]);
    }
    known.push(bound);
  }

  /** Whether it holds, or does not, whatever is worn: where the bounds of a stat decide. */
  #decided(lesser: CompiledBound, greater: CompiledBound, how: "or-equal" | "strictly"): boolean | undefined {
    const isStrict = how === "strictly";
    if (typeof lesser === "object" && typeof greater === "number") {
      const { min, max } = this.#boundsOf(lesser.stat);
      if (isStrict ? max < greater : max <= greater) return true;
      if (isStrict ? min >= greater : min > greater) return false;
    } else if (typeof lesser === "number" && typeof greater === "object") {
      const { min, max } = this.#boundsOf(greater.stat);
      if (isStrict ? lesser < min : lesser <= min) return true;
      if (isStrict ? lesser >= max : lesser > max) return false;
    }
    return undefined;
  }

  #constant(side: CompiledBound): number {
    return typeof side === "number" ? side : (this.#base[side.stat] as number);
  }

  /** By variable, by how much each value makes the lesser greater. */
  #difference(lesser: CompiledBound, greater: CompiledBound): readonly Column[] {
    const [up, down] = [lesser, greater].map((side) => (typeof side === "number" ? [] : this.#giftsOf(side.stat)));
    if (up === undefined || down === undefined) return [];
    if (down.length === 0) return up.map((gifts) => this.#column(gifts, 1, false));
    if (up.length === 0) return down.map((gifts) => this.#column(gifts, -1, false));
    return [...new Set([...up, ...down].map(({ variable }) => variable))].map((variable) => {
      const literals = this.#builder.values[variable] ?? [];
      const adds = (of: readonly Gifts[], value: number) =>
        of.find((gifts) => gifts.variable === variable)?.adds[value] ?? 0;
      return columnOf(
        literals,
        literals.map((_, value) => adds(up, value) - adds(down, value)),
      );
    });
  }

  #column(gifts: Gifts, sign: 1 | -1, isLoose: boolean): Column {
    const { variable, adds } = gifts;
    return getOrInsert(this.#columns, `${variable} ${sign} ${isLoose} ${this.#statKey(gifts)}`, () => {
      // What may be missing can help, and not harm.
      const weights = adds.map((add) => sign * (isLoose ? Math.max(0, add) : add));
      return columnOf(this.#builder.values[variable] ?? [], weights);
    });
  }

  readonly #keys = new Map<Gifts, number>();

  #statKey(gifts: Gifts): number {
    return getOrInsert(this.#keys, gifts, () => this.#keys.size);
  }

  /** Whether what a variable gives hangs on what another has. */
  #isLoose({ variable }: Gifts, without: number): boolean {
    return this.#members[variable]?.has(without) === true;
  }

  #sideOf(side: CompiledBound): Side {
    if (typeof side === "number") return side;
    const givers = this.#giftsOf(side.stat).map((gifts) => this.#giver(gifts, false));
    return { base: this.#base[side.stat] as number, ...this.#boundsOf(side.stat), givers };
  }

  #giver({ variable, adds, times }: Gifts, loose: boolean): Giver {
    return { literals: this.#builder.values[variable] ?? [], adds, times, loose };
  }

  #product(lesser: Side, greater: Side, guard: Literal, slack?: number): void {
    const scaleOf = (side: Side) =>
      typeof side === "number"
        ? Math.abs(side)
        : side.givers.reduce(
            (all, { adds, times }) => (all + largest(adds)) * Math.max(1, largest(times)),
            1 + Math.abs(side.base),
          );
    this.#builder.products.push({
      lesser,
      greater,
      guard,
      slack: slack ?? 1e-9 * (scaleOf(lesser) + scaleOf(greater)),
    });
  }

  #boundsOf(stat: number): { readonly min: number; readonly max: number } {
    const { min, max } = this.#model.catalog.compiled.stats[stat] ?? {
      min: Number.NEGATIVE_INFINITY,
      max: Number.POSITIVE_INFINITY,
    };
    return { min, max };
  }

  /** Whether a sum cannot reach its own bounds, whatever is worn. */
  #isFree(stat: number): boolean {
    const { min, max } = this.#boundsOf(stat);
    let [low, high] = [this.#base[stat] as number, this.#base[stat] as number];
    for (const { adds } of this.#giftsOf(stat)) {
      low += Math.min(...adds);
      high += Math.max(...adds);
    }
    return low >= min && high <= max;
  }

  #isSum(stat: number): boolean {
    return this.#giftsOf(stat).every(({ times }) => times.every((factor) => factor === 1));
  }

  #scaleOf(stat: number): number {
    return this.#giftsOf(stat).reduce(
      (all, { adds, times }) => (all + largest(adds)) * Math.max(1, largest(times)),
      Math.abs(this.#base[stat] as number),
    );
  }

  /** The variables that give to a stat. */
  #giftsOf(stat: number): readonly Gifts[] {
    return getOrInsert(this.#gifts, stat, () =>
      this.#model.variables.flatMap(({ values }, variable) => {
        const gifts = values.map(({ gives }) => gives.find((gift) => gift.stat === stat));
        if (gifts.every((gift) => gift === undefined || (gift.add === 0 && gift.times === 1))) return [];
        return [{ variable, adds: gifts.map((gift) => gift?.add ?? 0), times: gifts.map((gift) => gift?.times ?? 1) }];
      }),
    );
  }
}

function largest(numbers: readonly number[]): number {
  return numbers.reduce((most, each) => Math.max(most, Math.abs(each)), 0);
}

/** A bound that a sum of whole numbers can reach: none lies between two multiples of what divides all their differences. */
function rounded(columns: readonly Column[], bound: number): number {
  let divisor = 0;
  let least = 0;
  for (const { weights } of columns) {
    const [first = 0] = weights;
    least += first;
    for (const weight of weights) {
      if (!Number.isSafeInteger(weight)) return bound;
      divisor = gcd(divisor, weight - first);
    }
  }
  if (divisor === 0 || !Number.isFinite(bound)) return bound;
  return least + Math.floor((bound - least) / divisor + 1e-9) * divisor;
}

function gcd(one: number, other: number): number {
  let [a, b] = [Math.abs(one), Math.abs(other)];
  while (b !== 0) [a, b] = [b, a % b];
  return a;
}
