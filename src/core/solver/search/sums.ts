import { NumberList } from "./number-list.ts";
import { fails, type Literal, open, source, type Trail } from "./trail.ts";

/** Literals of which exactly one holds, each with a weight, the lightest first. */
export interface Column {
  readonly literals: readonly Literal[];
  readonly weights: readonly number[];
}

/** What the weights of some columns must not be above, when added up. */
export interface Sum {
  readonly columns: readonly Column[];
  readonly bound: number;
}

/** Puts the literals of a column in order. */
export function columnOf(literals: readonly Literal[], weights: readonly number[]): Column {
  const order = [...literals.keys()].sort((one, other) => (weights[one] as number) - (weights[other] as number));
  return { literals: order.map((at) => literals[at] as number), weights: order.map((at) => weights[at] as number) };
}

const none: readonly number[] = [];

/**
 * Sums over choices, that must keep within bounds. The lightest value that is left in each column is kept, and the sum of these:
 * what becomes too heavy with them fails.
 *
 * Why a value fails is worked out only when it is asked for: that in other columns what is lighter had failed before. As much as
 * can be is left out of such a reason, so that what is learned from it is short.
 */
export class Sums {
  #columns: Column[] = [];
  /** By column, the place of its lightest value that is left, and the literal there. */
  #lightest: number[] = [];
  #watched: Literal[] = [];
  /** By literal, by how many columns it is watched. */
  #watchers = new Uint16Array(64);
  #sumsOf: (readonly number[])[] = [];
  /** By literal, its columns. */
  #columnsOf: (readonly number[] | undefined)[] = [];
  readonly #known = new Map<Column, number>();
  #bounds: number[] = [];
  /** Sums nearer than this may be equal but for the order of summing. */
  #slack: number[] = [];
  #totals: number[] = [];
  /** By sum, its terms; by term, its column, and the place of the heaviest value that may be left. */
  #terms: (readonly number[])[] = [];
  #columnOf: number[] = [];
  #heaviest: number[] = [];
  readonly #queue = new NumberList();
  readonly #isQueued: number[] = [];
  /** What to go back to: kind, number and old value, by threes. */
  readonly #undo = new NumberList();
  readonly #marks: number[] = [];

  /** How many terms were looked at since this was set to 0. */
  looks = 0;

  /** A copy of what was given, with nothing known. */
  copy(): Sums {
    const copy = new Sums();
    copy.#columns = this.#columns.slice();
    copy.#lightest = this.#lightest.slice();
    copy.#watched = this.#watched.slice();
    copy.#watchers = this.#watchers.slice();
    // What is never changed in place is shared until something is added to it.
    copy.#sumsOf = this.#sumsOf.slice();
    copy.#columnsOf = this.#columnsOf.slice();
    copy.#bounds = this.#bounds.slice();
    copy.#slack = this.#slack.slice();
    copy.#totals = this.#totals.slice();
    copy.#terms = this.#terms.slice();
    copy.#columnOf = this.#columnOf.slice();
    copy.#heaviest = this.#heaviest.slice();
    for (const number of this.#terms.keys()) copy.#enqueue(number);
    return copy;
  }

  /** Adds a sum, while nothing is known but what holds for good; its number. */
  add({ columns, bound }: Sum, trail?: Trail): number {
    const sum = this.#bounds.length;
    let total = 0;
    let scale = 1 + Math.abs(bound);
    const terms: number[] = [];
    for (const column of columns) {
      const number = this.#known.get(column) ?? this.#addColumn(column, trail);
      this.#sumsOf[number] = [...(this.#sumsOf[number] ?? none), sum];
      terms.push(this.#columnOf.length);
      this.#columnOf.push(number);
      this.#heaviest.push(column.weights.length - 1);
      total += column.weights[this.#lightest[number] as number] as number;
      scale += Math.max(Math.abs(column.weights[0] ?? 0), Math.abs(column.weights.at(-1) ?? 0));
    }
    this.#bounds.push(bound);
    this.#slack.push(1e-9 * scale);
    this.#totals.push(total);
    this.#terms.push(terms);
    this.#isQueued.push(0);
    this.#enqueue(sum);
    return sum;
  }

  #addColumn(column: Column, trail: Trail | undefined): number {
    const number = this.#columns.length;
    this.#columns.push(column);
    this.#known.set(column, number);
    this.#sumsOf.push([]);
    let lightest = 0;
    const { literals } = column;
    while (
      trail !== undefined &&
      lightest < literals.length - 1 &&
      trail.values[literals[lightest] as number] === fails
    )
      lightest += 1;
    this.#lightest.push(lightest);
    this.#watched.push(literals[lightest] as number);
    this.#addWatcher(literals[lightest] as number);
    for (const literal of literals) this.#columnsOf[literal] = [...(this.#columnsOf[literal] ?? none), number];
    return number;
  }

  #watch(column: number, literal: Literal): void {
    const old = this.#watched[column] as number;
    this.#watchers[old] = (this.#watchers[old] as number) - 1;
    this.#watched[column] = literal;
    this.#addWatcher(literal);
  }

  #addWatcher(literal: Literal): void {
    if (literal >= this.#watchers.length) {
      const watchers = new Uint16Array(2 * literal + 2);
      watchers.set(this.#watchers);
      this.#watchers = watchers;
    }
    this.#watchers[literal] = (this.#watchers[literal] as number) + 1;
  }

  #enqueue(sum: number): void {
    if (this.#isQueued[sum] === 1) return;
    this.#isQueued[sum] = 1;
    this.#queue.push(sum);
  }

  /** Follows up a literal that fails now. */
  follow(failing: Literal, trail: Trail): void {
    // Nearly always nobody watches it.
    if (failing >= this.#watchers.length || this.#watchers[failing] === 0) return;
    const columns = this.#columnsOf[failing] as readonly number[];
    for (let at = 0; at < columns.length; at += 1) {
      const number = columns[at] as number;
      if (this.#watched[number] !== failing) continue;
      const { literals, weights } = this.#columns[number] as Column;
      const was = this.#lightest[number] as number;
      let lightest = was;
      while (lightest < literals.length - 1 && trail.values[literals[lightest] as number] === fails) lightest += 1;
      if (lightest === was) continue;
      this.#lightest[number] = lightest;
      this.#watch(number, literals[lightest] as number);
      this.#note(0, number, was);
      const more = (weights[lightest] as number) - (weights[was] as number);
      if (more === 0) continue;
      const sums = this.#sumsOf[number] as readonly number[];
      for (let each = 0; each < sums.length; each += 1) {
        const sum = sums[each] as number;
        const total = this.#totals[sum] as number;
        this.#note(1, sum, total);
        this.#totals[sum] = total + more;
        this.#enqueue(sum);
      }
    }
  }

  #note(kind: 0 | 1 | 2, number: number, old: number): void {
    this.#undo.push(kind);
    this.#undo.push(number);
    this.#undo.push(old);
  }

  /** A new level begins. */
  mark(): void {
    this.#marks.push(this.#undo.size);
  }

  /** Goes back to before a level. */
  undo(level: number): void {
    const end = this.#marks[level] ?? 0;
    this.#marks.length = level;
    const { items, size } = this.#undo;
    for (let at = size - 3; at >= end; at -= 3) {
      const number = items[at + 1] as number;
      const old = items[at + 2] as number;
      if (items[at] === 0) {
        this.#lightest[number] = old;
        this.#watch(number, (this.#columns[number] as Column).literals[old] as number);
      } else if (items[at] === 1) this.#totals[number] = old;
      else this.#heaviest[number] = old;
    }
    this.#undo.size = end;
    const queue = this.#queue;
    for (let at = 0; at < queue.size; at += 1) this.#isQueued[queue.items[at] as number] = 0;
    queue.size = 0;
  }

  /** Looks at the next sum that changed; whether there was one, or nothing when its bound cannot be kept. */
  propagate(trail: Trail): boolean | undefined {
    const queue = this.#queue;
    if (queue.size === 0) return false;
    queue.size -= 1;
    const sum = queue.items[queue.size] as number;
    this.#isQueued[sum] = 0;
    const over = (this.#totals[sum] as number) - (this.#bounds[sum] as number) - (this.#slack[sum] as number);
    if (over > 0) {
      trail.conflict.size = 0;
      this.#because(sum, -1, over, trail.size, trail, trail.conflict);
      return undefined;
    }
    const terms = this.#terms[sum] as readonly number[];
    this.looks += terms.length;
    for (let at = 0; at < terms.length; at += 1) {
      const term = terms[at] as number;
      const column = this.#columnOf[term] as number;
      const { literals, weights } = this.#columns[column] as Column;
      const most = (weights[this.#lightest[column] as number] as number) - over;
      let heaviest = this.#heaviest[term] as number;
      if ((weights[heaviest] as number) <= most) continue;
      this.#note(2, term, heaviest);
      for (; heaviest > 0 && (weights[heaviest] as number) > most; heaviest -= 1) {
        const literal = literals[heaviest] as number;
        if (trail.values[literal] === open) trail.assign(literal ^ 1, source.sum, sum);
      }
      this.#heaviest[term] = heaviest;
    }
    return true;
  }

  /** The failing literals that made a literal hold. */
  explain(literal: Literal, sum: number, trail: Trail, into: NumberList): void {
    const failed = literal ^ 1;
    const before = trail.positions[literal >> 1] as number;
    let total = -(this.#bounds[sum] as number) - (this.#slack[sum] as number);
    let own = -1;
    const terms = this.#terms[sum] as readonly number[];
    for (let each = 0; each < terms.length; each += 1) {
      const column = this.#columnOf[terms[each] as number] as number;
      const { literals, weights } = this.#columns[column] as Column;
      const at = own < 0 ? literals.indexOf(failed) : -1;
      if (at >= 0) own = column;
      total += weights[at >= 0 ? at : this.#lightestAt(column, before, trail)] as number;
    }
    this.#because(sum, own, total, before, trail, into);
  }

  /** The place of the lightest value of a column that was left at a position of the trail. */
  #lightestAt(column: number, before: number, { values, positions }: Trail): number {
    const { literals } = this.#columns[column] as Column;
    const last = literals.length - 1;
    let at = 0;
    for (; at < last; at += 1) {
      const literal = literals[at] as number;
      if (values[literal] !== fails || (positions[literal >> 1] as number) >= before) break;
    }
    return at;
  }

  /** Values that failed before a position, of so many that the sum was over its bound. */
  #because(sum: number, own: number, over: number, before: number, trail: Trail, into: NumberList): void {
    let spare = over;
    const terms = this.#terms[sum] as readonly number[];
    for (let each = 0; each < terms.length; each += 1) {
      const column = this.#columnOf[terms[each] as number] as number;
      if (column === own) continue;
      const { literals, weights } = this.#columns[column] as Column;
      let lightest = this.#lightestAt(column, before, trail);
      const weight = weights[lightest] as number;
      // What failed for good needs no reason, so the column may come down to the first that did not.
      let least = 0;
      while (least < lightest && trail.levels[(literals[least] as number) >> 1] === 0) least += 1;
      if (weight === weights[least]) continue;
      let lowered = lightest;
      while (lowered > least && weight - (weights[lowered - 1] as number) < spare) lowered -= 1;
      spare -= weight - (weights[lowered] as number);
      lightest = lowered;
      for (let at = least; at < lightest; at += 1) {
        if ((weights[at] as number) < (weights[lightest] as number)) into.push(literals[at] as number);
      }
    }
  }
}
