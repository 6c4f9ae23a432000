import type { ItemTable } from "./items.ts";

/** The numbers of two items. */
export type Pair = readonly [one: number, other: number];

/** Which pairs of items are still to be seen together, and how much each item would add to a character that is being put together. */
export class PairTable {
  readonly count: number;
  readonly groups: number;
  /** How many pairs are left. */
  left = 0;
  readonly #table: ItemTable;
  readonly #words: number;
  /** By item, a bit for each other item that it is still to be seen with. */
  readonly #bits: Uint32Array;
  /** By item and group, how many of the group's items it is still to be seen with. */
  readonly #counts: Int32Array;
  readonly #groupOf: Int32Array;
  /** By group, what a pair with one of its items is worth while nothing of the group is chosen. */
  readonly #chances: Float64Array;

  /** By item, the chances of its pairs, together. */
  readonly #chancesOf: Float64Array;

  constructor(table: ItemTable) {
    const { items, groupOf, sizes } = table;
    this.#table = table;
    this.count = items.length;
    this.groups = sizes.length;
    this.#words = (items.length + 31) >>> 5;
    this.#bits = new Uint32Array(items.length * this.#words);
    this.#counts = new Int32Array(items.length * sizes.length);
    this.#groupOf = groupOf;
    this.#chances = Float64Array.from(sizes, (size) => 1 / size);
    this.#chancesOf = new Float64Array(items.length);
  }

  /** A table of the same pairs. */
  copy(): PairTable {
    const copy = new PairTable(this.#table);
    copy.#bits.set(this.#bits);
    copy.#counts.set(this.#counts);
    copy.#chancesOf.set(this.#chancesOf);
    copy.left = this.left;
    return copy;
  }

  has(one: number, other: number): boolean {
    return (((this.#bits[one * this.#words + (other >>> 5)] as number) >>> (other & 31)) & 1) === 1;
  }

  /** Asks for a pair. */
  add(one: number, other: number): void {
    if (this.has(one, other)) return;
    this.#turn(one, other, 1);
    this.#turn(other, one, 1);
    this.left += 1;
  }

  /** Takes a pair away: it was seen, or cannot be. Whether it was there. */
  take(one: number, other: number): boolean {
    if (!this.has(one, other)) return false;
    this.#turn(one, other, -1);
    this.#turn(other, one, -1);
    this.left -= 1;
    return true;
  }

  #turn(one: number, other: number, by: number): void {
    const at = one * this.#words + (other >>> 5);
    this.#bits[at] = (this.#bits[at] as number) ^ (1 << (other & 31));
    const place = one * this.groups + (this.#groupOf[other] as number);
    this.#counts[place] = (this.#counts[place] as number) + by;
    this.#chancesOf[one] =
      (this.#chancesOf[one] as number) + by * (this.#chances[this.#groupOf[other] as number] as number);
  }

  /** How many pairs of an item are left. */
  pairsOf(item: number): number {
    let sum = 0;
    for (let group = 0; group < this.groups; group += 1) sum += this.#counts[item * this.groups + group] as number;
    return sum;
  }

  /** All pairs that are left, the item with the lower number first. */
  pairs(): readonly Pair[] {
    const found: Pair[] = [];
    for (let one = 0; one < this.count; one += 1) {
      for (let word = 0; word < this.#words; word += 1) {
        let bits = this.#bits[one * this.#words + word] as number;
        for (; bits !== 0; bits &= bits - 1) {
          const other = 32 * word + lowestBit(bits);
          if (other > one) found.push([one, other]);
        }
      }
    }
    return found;
  }

  /** Adds one to the gain of each item that an item is still to be seen with. */
  addGains(gains: Int32Array, item: number): void {
    const at = item * this.#words;
    for (let word = 0; word < this.#words; word += 1) {
      let bits = this.#bits[at + word] as number;
      for (; bits !== 0; bits &= bits - 1) {
        const other = 32 * word + lowestBit(bits);
        gains[other] = (gains[other] as number) + 1;
      }
    }
  }

  /** By item, what may come of it while nothing is chosen: for each of its pairs, the chance that it comes about. */
  prospects(into: Float64Array): void {
    into.set(this.#chancesOf);
  }

  /** Something of a group was chosen: nothing else of it can come about. */
  settle(prospects: Float64Array, group: number): void {
    const chance = this.#chances[group] as number;
    for (let item = 0; item < this.count; item += 1) {
      prospects[item] = (prospects[item] as number) - chance * (this.#counts[item * this.groups + group] as number);
    }
  }
}

function lowestBit(bits: number): number {
  return 31 - Math.clz32(bits & -bits);
}
