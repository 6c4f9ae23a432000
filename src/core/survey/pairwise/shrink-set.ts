import { type Cover, type Dressing, dressPair, eachPair } from "./cover-pairs.ts";
import type { Dressed } from "./dresser.ts";
import { PairTable } from "./pair-table.ts";

/** It is given up when so many characters were looked through, in try after try, and none of them was saved. */
const patience = 10_000;
/** How many characters a try leaves out, at most. */
const mostLeftOut = 4;

/**
 * Makes a set of characters smaller: leaves out a few, lets the others show what only those showed as far as they are free to, and puts new ones
 * together for the rest; again and again, from whatever is no larger.
 *
 * P. Nayeri, C. J. Colbourn, G. Konjevod, "Randomized post-optimization of covering arrays" (2013); P. Shaw, "Using constraint programming
 * and local search methods to solve vehicle routing problems" (1998), for leaving out and putting back.
 *
 * @param enough - it is not made smaller than this.
 */
export function shrinkSet(dressing: Dressing, { set }: Cover, enough: number): readonly Dressed[] {
  const { budget, random } = dressing;
  const shrinking = new Shrinking(dressing, set);
  let looked = 0;
  while (looked < patience && shrinking.set.length > enough && budget.steps > 0) {
    const before = shrinking.set.length;
    shrinking.leaveOut(1 + Math.floor(random() * mostLeftOut));
    looked = shrinking.set.length < before ? 0 : looked + before;
  }
  return shrinking.set;
}

class Shrinking {
  set: Dressed[];
  readonly #dressing: Dressing;
  /** By pair of items, on how many characters it is seen. */
  readonly #counts: Uint16Array;
  /** Pairs that are seen on none. */
  readonly #unseen: PairTable;

  constructor(dressing: Dressing, set: readonly Dressed[]) {
    const { table } = dressing;
    this.set = [...set];
    this.#dressing = dressing;
    this.#counts = new Uint16Array(table.items.length ** 2);
    this.#unseen = new PairTable(table);
    for (const each of set) this.#show(each);
  }

  #placeOf(one: number, other: number): number {
    const { length } = this.#dressing.table.items;
    return one < other ? one * length + other : other * length + one;
  }

  #show(dressed: Dressed): void {
    eachPair(dressed, (one, other) => {
      const place = this.#placeOf(one, other);
      const count = (this.#counts[place] as number) + 1;
      this.#counts[place] = count;
      if (count === 1) this.#unseen.take(one, other);
    });
  }

  #hide(dressed: Dressed): void {
    eachPair(dressed, (one, other) => {
      const place = this.#placeOf(one, other);
      const count = (this.#counts[place] as number) - 1;
      this.#counts[place] = count;
      if (count === 0 && this.#dressing.table.areWanted(one, other)) this.#unseen.add(one, other);
    });
  }

  /** Leaves some out; the set is as it was where it would be larger without them. */
  leaveOut(count: number): void {
    const before = [...this.set];
    for (let left = Math.min(count, before.length); left > 0; left -= 1) {
      const [gone] = this.set.splice(this.#below(this.set.length), 1);
      if (gone !== undefined) this.#hide(gone);
    }
    this.#letOthersShow();
    this.#addUpTo(before.length);
    if (this.#unseen.left === 0) return;
    for (const each of this.set) this.#hide(each);
    for (const each of before) this.#show(each);
    this.set = before;
  }

  #below(count: number): number {
    return Math.floor(this.#dressing.random() * count);
  }

  #letOthersShow(): void {
    const { random, budget } = this.#dressing;
    const unseen = this.#unseen.pairs();
    const start = this.#below(this.set.length);
    for (let step = 0; step < this.set.length && this.#unseen.left > 0; step += 1) {
      const at = (start + step) % this.set.length;
      const worn = this.set[at] as Dressed;
      const needed = this.#neededOf(worn);
      const isOpen = this.#openTo(needed);
      if (!unseen.some(([one, other]) => isOpen(one) && isOpen(other) && this.#unseen.has(one, other))) continue;
      const again = worn.dresser.dress(needed, this.#unseen, random, budget);
      if (again === undefined) continue;
      this.#show(again);
      this.#hide(worn);
      this.set[at] = again;
    }
  }

  /** What a character has to go on showing: items of pairs that are seen on it alone. */
  #neededOf(dressed: Dressed): readonly number[] {
    const needed = new Set<number>();
    eachPair(dressed, (one, other) => {
      if (this.#counts[this.#placeOf(one, other)] !== 1 || !this.#dressing.table.areWanted(one, other)) return;
      needed.add(one).add(other);
    });
    return [...needed];
  }

  /** Whether an item is shown by a character that shows some, or may be. */
  #openTo(needed: readonly number[]): (item: number) => boolean {
    const { groupOf } = this.#dressing.table;
    const taken = new Map(needed.map((item) => [groupOf[item] as number, item]));
    return (item) => (taken.get(groupOf[item] as number) ?? item) === item;
  }

  #addUpTo(most: number): void {
    while (this.#unseen.left > 0 && this.set.length < most) {
      const unseen = this.#unseen.pairs();
      const pair = unseen[this.#below(unseen.length)];
      const dressed = pair && dressPair(this.#dressing, pair, this.#unseen);
      if (dressed === undefined || dressed === "none" || dressed === "gave-up") return;
      this.#show(dressed);
      this.set.push(dressed);
    }
  }
}
