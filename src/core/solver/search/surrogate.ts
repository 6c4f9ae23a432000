import { getOrInsert } from "../../base/get-or-insert.ts";
import type { Program } from "./program.ts";
import { type Column, columnOf, type Sum } from "./sums.ts";
import { fails, holds, type Literal, type Trail } from "./trail.ts";

/** A bound on what the values of choices cost that follows from all sums together. */
export interface Surrogate {
  /** What any answer costs at least. */
  readonly least: number;
  /** One sum in place of all: an answer that costs so much keeps it with a bound that is so much more. */
  readonly sum: Sum;
}

const turns = 200;
/** After how many turns without a better bound the steps become smaller. */
const patience = 8;

/**
 * Adds up all sums of a program, each with a factor, such that the cheapest values of the choices cost as much as can be.
 *
 * Any factors give a true bound; good ones are found step by step. M. Held, R. M. Karp, "The traveling-salesman problem and
 * minimum spanning trees: part II" (1971); A. M. Geoffrion, "Lagrangean relaxation for integer programming" (1974). The sum of
 * sums serves the search on as one more: F. Glover, "Surrogate constraints" (1968).
 *
 * @param costs - by choice, what each of its values costs.
 * @param cutoff - the most that an answer of use costs.
 */
export function surrogateOf(
  program: Program,
  trail: Trail,
  costs: readonly (readonly number[])[],
  cutoff: number,
): Surrogate {
  const relaxation = new Relaxation(rowsOf(program, trail), choicesOf(program, trail, costs));
  const best = relaxation.improve(cutoff);
  return { least: best.least, sum: relaxation.sum(best.factors) };
}

/** A choice as the relaxation sees it: the values that it may still take, and what each costs. */
interface Choice {
  readonly literals: readonly Literal[];
  readonly values: readonly number[];
  readonly costs: readonly number[];
}

function choicesOf({ table }: Program, trail: Trail, costs: readonly (readonly number[])[]): readonly Choice[] {
  return table.values.map((literals, choice) => ({
    literals,
    values: [...literals.keys()].filter((value) => trail.values[literals[value] as number] !== fails),
    costs: costs[choice] ?? [],
  }));
}

/** The sums of a program, each with a factor, and what the choices cost at least under them. */
class Relaxation {
  readonly #rows: readonly Row[];
  readonly #choices: readonly Choice[];
  readonly #terms: readonly Terms[];
  readonly #factors: Float64Array;
  /** By row, how much the cheapest values weigh more than it allows. */
  readonly #over: Float64Array;

  constructor(rows: readonly Row[], choices: readonly Choice[]) {
    this.#rows = rows;
    this.#choices = choices;
    this.#terms = termsOf(
      rows,
      choices.map(({ literals }) => literals.length),
    );
    this.#factors = new Float64Array(rows.length);
    this.#over = new Float64Array(rows.length);
  }

  /** Goes up step by step, until no step is left, or a bound above the cutoff is found. */
  improve(cutoff: number): { readonly least: number; readonly factors: Float64Array } {
    let best = { least: Number.NEGATIVE_INFINITY, factors: this.#factors.slice() };
    let reach = 1.6;
    let idle = 0;
    for (let turn = 0; turn < turns; turn += 1) {
      const least = this.#bound();
      const isBetter = least > best.least + 1e-9;
      if (isBetter) best = { least, factors: this.#factors.slice() };
      idle = isBetter ? 0 : idle + 1;
      if (least > cutoff + 1e-3) break;
      if (idle > patience) {
        reach /= 2;
        idle = 0;
      }
      if (reach < 1e-3 || !this.#step(reach * (cutoff + 1 - least))) break;
    }
    return best;
  }

  /** All sums with their factors as one. */
  sum(factors: Float64Array): Sum {
    return sumOf(this.#choices, this.#terms, this.#rows, factors);
  }

  /** What the choices cost at least with these factors. Notes by how much each row is kept or broken then. */
  #bound(): number {
    let least = 0;
    for (let row = 0; row < this.#rows.length; row += 1) {
      const { bound } = this.#rows[row] as Row;
      this.#over[row] = -bound;
      least -= (this.#factors[row] as number) * bound;
    }
    for (let choice = 0; choice < this.#choices.length; choice += 1)
      least += this.#takeCheapest(this.#choices[choice] as Choice, this.#terms[choice] as Terms);
    return least;
  }

  /** Takes the cheapest value of a choice, and adds what it weighs to its rows. Returns its price. */
  #takeCheapest({ values, costs }: Choice, { starts, rows, weights }: Terms): number {
    const factors = this.#factors;
    const over = this.#over;
    let cheapest = Number.POSITIVE_INFINITY;
    let chosen = 0;
    for (let each = 0; each < values.length; each += 1) {
      const value = values[each] as number;
      let price = costs[value] as number;
      for (let at = starts[value] as number; at < (starts[value + 1] as number); at += 1)
        price += (factors[rows[at] as number] as number) * (weights[at] as number);
      if (price >= cheapest) continue;
      cheapest = price;
      chosen = value;
    }
    for (let at = starts[chosen] as number; at < (starts[chosen + 1] as number); at += 1)
      over[rows[at] as number] = (over[rows[at] as number] as number) + (weights[at] as number);
    return cheapest;
  }

  /** Changes the factors toward the rows that are broken. `false` where none is, and none need be smaller. */
  #step(length: number): boolean {
    const factors = this.#factors;
    const over = this.#over;
    let squares = 0;
    for (let row = 0; row < factors.length; row += 1) {
      // What would only push a factor below nothing does not count.
      const counts = (over[row] as number) > 0 || (factors[row] as number) > 0;
      if (counts) squares += (over[row] as number) ** 2;
    }
    if (squares < 1e-12) return false;
    for (let row = 0; row < factors.length; row += 1)
      factors[row] = Math.max(0, (factors[row] as number) + (length / squares) * (over[row] as number));
    return true;
  }
}

interface Row {
  /** By choice, what each value weighs. */
  readonly weights: ReadonlyMap<number, Float64Array>;
  readonly bound: number;
}

/** Where a literal stands among the choices: its choice, and the values of it that it holds for. */
interface Place {
  readonly choice: number;
  readonly values: readonly number[];
}

// What is made for each row, column and value below is made a hundred thousand times for a large catalog, so that these loops go by index.

/** The sums that speak of choices alone, each made to one scale. */
function rowsOf({ table, sources }: Program, trail: Trail): readonly Row[] {
  const places = placesOf(table);
  const rows: Row[] = [];
  for (let number = 0; number < sources.length; number += 1) {
    const row = rowOf(sources[number] as Sum, { table, places, trail });
    if (row !== undefined) rows.push(row);
  }
  return rows;
}

function placesOf({ values, masks }: Program["table"]): ReadonlyMap<Literal, Place> {
  const places = new Map<Literal, Place>();
  for (let choice = 0; choice < values.length; choice += 1) {
    const literals = values[choice] as readonly Literal[];
    for (let value = 0; value < literals.length; value += 1)
      places.set(literals[value] as Literal, { choice, values: [value] });
  }
  for (const { literal, choice, values: held } of masks)
    places.set(literal, { choice, values: held.flatMap((value) => places.get(value)?.values ?? []) });
  return places;
}

interface Placing {
  readonly table: Program["table"];
  readonly places: ReadonlyMap<Literal, Place>;
  readonly trail: Trail;
}

/** A sum as a row, its largest weight one; `undefined` where it speaks of anything but choices, or of nothing that is open. */
function rowOf({ columns, bound }: Sum, { table, places, trail }: Placing): Row | undefined {
  const weights = new Map<number, Float64Array>();
  let fixed = 0;
  for (let at = 0; at < columns.length; at += 1) {
    const column = columns[at] as Column;
    const known = column.literals.findIndex((literal) => trail.values[literal] === holds);
    if (known >= 0) {
      fixed += column.weights[known] as number;
      continue;
    }
    const isPair = column.literals.length === 2;
    const first = isPair && !places.has(column.literals[0] as number) ? 1 : 0;
    const place = places.get(column.literals[first] as number);
    if (place === undefined) return undefined;
    const { choice } = place;
    const own = getOrInsert(weights, choice, () => new Float64Array(table.values[choice]?.length ?? 0));
    if (isPair) {
      const base = column.weights[1 - first] as number;
      fixed += base;
      addWeights(own, place.values, (column.weights[first] as number) - base);
    } else addColumn(own, column, places);
  }
  return scaled(weights, bound - fixed);
}

function addWeights(own: Float64Array, values: readonly number[], weight: number): void {
  for (let at = 0; at < values.length; at += 1) {
    const value = values[at] as number;
    own[value] = (own[value] as number) + weight;
  }
}

/** Adds a column of all values of a choice. */
function addColumn(own: Float64Array, { literals, weights }: Column, places: ReadonlyMap<Literal, Place>): void {
  for (let at = 0; at < literals.length; at += 1) {
    const value = places.get(literals[at] as Literal)?.values[0] ?? 0;
    own[value] = (own[value] as number) + (weights[at] as number);
  }
}

function scaled(weights: ReadonlyMap<number, Float64Array>, bound: number): Row | undefined {
  let length = 0;
  for (const own of weights.values()) {
    for (let at = 0; at < own.length; at += 1) length = Math.max(length, Math.abs(own[at] as number));
  }
  if (length === 0) return undefined;
  for (const own of weights.values()) {
    for (let at = 0; at < own.length; at += 1) own[at] = (own[at] as number) / length;
  }
  return { weights, bound: bound / length };
}

/** The rows in which each value of a choice weighs something: those of a value from its start to that of the next. */
interface Terms {
  readonly starts: Int32Array;
  readonly rows: Int32Array;
  readonly weights: Float64Array;
}

/** @param sizes - how many values each choice has. */
function termsOf(rows: readonly Row[], sizes: readonly number[]): readonly Terms[] {
  const concerned = sizes.map((): Concerned[] => []);
  for (let row = 0; row < rows.length; row += 1) {
    (rows[row] as Row).weights.forEach((own, choice) => {
      concerned[choice]?.push({ row, own });
    });
  }
  return sizes.map((size, choice) => termsOfChoice(concerned[choice] ?? [], size));
}

/** A row that speaks of a choice, and what each value weighs in it. */
interface Concerned {
  readonly row: number;
  readonly own: Float64Array;
}

function termsOfChoice(concerned: readonly Concerned[], size: number): Terms {
  const starts = new Int32Array(size + 1);
  const numbers: number[] = [];
  const weights: number[] = [];
  for (let value = 0; value < size; value += 1) {
    for (let at = 0; at < concerned.length; at += 1) {
      const { row, own } = concerned[at] as Concerned;
      const weight = own[value] as number;
      if (weight === 0) continue;
      numbers.push(row);
      weights.push(weight);
    }
    starts[value + 1] = numbers.length;
  }
  return { starts, rows: Int32Array.from(numbers), weights: Float64Array.from(weights) };
}

function sumOf(choices: readonly Choice[], terms: readonly Terms[], rows: readonly Row[], factors: Float64Array): Sum {
  const columns = choices.map(({ literals, costs }, choice) => {
    const { starts = [], rows: numbers = [], weights = [] } = terms[choice] ?? {};
    const prices = literals.map((_, value) => {
      let price = costs[value] as number;
      for (let at = starts[value] as number; at < (starts[value + 1] as number); at += 1)
        price += (factors[numbers[at] as number] as number) * (weights[at] as number);
      return price;
    });
    return columnOf(literals, prices);
  });
  const bound = rows.reduce((all, row, number) => all + (factors[number] as number) * row.bound, 0);
  return { columns, bound };
}
