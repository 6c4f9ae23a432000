/**
 * What each variable can still be: a bit set of value numbers for each, in one array of words.
 *
 * A change that leaves a variable without values makes the whole `failed`.
 */
export class Domains {
  readonly offsets: readonly number[];
  readonly words: Uint32Array;
  failed = false;
  /** Variables that changed since they were last taken from here. */
  readonly changed: number[] = [];
  readonly #isChanged: Uint8Array;

  constructor(sizes: readonly number[]) {
    let offset = 0;
    const offsets = [0];
    for (const size of sizes) {
      offset += wordsFor(size);
      offsets.push(offset);
    }
    this.offsets = offsets;
    this.words = new Uint32Array(offset);
    this.#isChanged = new Uint8Array(sizes.length);
    for (const [variable, size] of sizes.entries()) this.words.set(allBits(size), offsets[variable] ?? 0);
  }

  /** How many values a variable has left. */
  size(variable: number): number {
    let size = 0;
    for (let at = this.#start(variable); at < this.#end(variable); at += 1) size += countBits(this.words[at] ?? 0);
    return size;
  }

  isFixed(variable: number): boolean {
    let single = false;
    for (let at = this.#start(variable); at < this.#end(variable); at += 1) {
      const word = this.words[at] ?? 0;
      if (word === 0) continue;
      if (single || (word & (word - 1)) !== 0) return false;
      single = true;
    }
    return single;
  }

  has(variable: number, value: number): boolean {
    return (((this.words[this.#start(variable) + (value >>> 5)] ?? 0) >>> (value & 31)) & 1) === 1;
  }

  /** The values left, in order. */
  values(variable: number): number[] {
    const values: number[] = [];
    const start = this.#start(variable);
    for (let at = start; at < this.#end(variable); at += 1) {
      let word = this.words[at] ?? 0;
      while (word !== 0) {
        values.push(((at - start) << 5) + 31 - Math.clz32(word & -word));
        word &= word - 1;
      }
    }
    return values;
  }

  /** The first value left. */
  first(variable: number): number {
    const start = this.#start(variable);
    for (let at = start; at < this.#end(variable); at += 1) {
      const word = this.words[at] ?? 0;
      if (word !== 0) return ((at - start) << 5) + 31 - Math.clz32(word & -word);
    }
    return -1;
  }

  /** The least number that any value left has. */
  least(variable: number, numbers: Float64Array): number {
    let least = Number.POSITIVE_INFINITY;
    const start = this.#start(variable);
    for (let at = start; at < this.#end(variable); at += 1) {
      for (let word = this.words[at] ?? 0; word !== 0; word &= word - 1) {
        const number = numbers[((at - start) << 5) + 31 - Math.clz32(word & -word)] ?? 0;
        if (number < least) least = number;
      }
    }
    return least;
  }

  /** The greatest number that any value left has. */
  greatest(variable: number, numbers: Float64Array): number {
    let greatest = Number.NEGATIVE_INFINITY;
    const start = this.#start(variable);
    for (let at = start; at < this.#end(variable); at += 1) {
      for (let word = this.words[at] ?? 0; word !== 0; word &= word - 1) {
        const number = numbers[((at - start) << 5) + 31 - Math.clz32(word & -word)] ?? 0;
        if (number > greatest) greatest = number;
      }
    }
    return greatest;
  }

  /** Leaves out the values that have more than a limit. */
  dropAbove(variable: number, numbers: Float64Array, limit: number): void {
    const start = this.#start(variable);
    for (let at = start; at < this.#end(variable); at += 1) {
      for (let word = this.words[at] ?? 0; word !== 0; word &= word - 1) {
        const value = ((at - start) << 5) + 31 - Math.clz32(word & -word);
        if ((numbers[value] ?? 0) > limit) this.dropValue(variable, value);
      }
    }
  }

  /** Whether any value left is in a mask. */
  meets(variable: number, mask: Uint32Array): boolean {
    const start = this.#start(variable);
    for (let at = 0; at < mask.length; at += 1) {
      if (((this.words[start + at] ?? 0) & (mask[at] ?? 0)) !== 0) return true;
    }
    return false;
  }

  /** Whether every value left is in a mask. */
  isWithin(variable: number, mask: Uint32Array): boolean {
    const start = this.#start(variable);
    for (let at = 0; at < mask.length; at += 1) {
      if (((this.words[start + at] ?? 0) & ~(mask[at] ?? 0)) !== 0) return false;
    }
    return true;
  }

  /** Leaves only the values in a mask. */
  keep(variable: number, mask: Uint32Array): void {
    this.#mask(variable, mask, 0);
  }

  /** Leaves only the values that are not in a mask. */
  drop(variable: number, mask: Uint32Array): void {
    this.#mask(variable, mask, -1);
  }

  fix(variable: number, value: number): void {
    const start = this.#start(variable);
    let changed = false;
    for (let at = start; at < this.#end(variable); at += 1) {
      const was = this.words[at] ?? 0;
      const now = at - start === value >>> 5 ? (was & (1 << (value & 31))) >>> 0 : 0;
      changed ||= was !== now;
      this.words[at] = now;
    }
    if (changed) this.#touch(variable);
  }

  dropValue(variable: number, value: number): void {
    const at = this.#start(variable) + (value >>> 5);
    const was = this.words[at] ?? 0;
    const now = (was & ~(1 << (value & 31))) >>> 0;
    if (was === now) return;
    this.words[at] = now;
    this.#touch(variable);
  }

  /** A copy of the words, to come back to. */
  save(): Uint32Array {
    return this.words.slice();
  }

  restore(words: Uint32Array): void {
    this.words.set(words);
    this.failed = false;
    for (const variable of this.changed) this.#isChanged[variable] = 0;
    this.changed.length = 0;
  }

  /** Takes a variable that changed; `undefined` when there is none. */
  nextChanged(): number | undefined {
    const variable = this.changed.pop();
    if (variable !== undefined) this.#isChanged[variable] = 0;
    return variable;
  }

  #mask(variable: number, mask: Uint32Array, flip: 0 | -1): void {
    const start = this.#start(variable);
    let changed = false;
    for (let at = 0; at < mask.length; at += 1) {
      const was = this.words[start + at] ?? 0;
      const now = (was & ((mask[at] ?? 0) ^ flip)) >>> 0;
      changed ||= was !== now;
      this.words[start + at] = now;
    }
    if (changed) this.#touch(variable);
  }

  #touch(variable: number): void {
    if (this.first(variable) < 0) this.failed = true;
    if (this.#isChanged[variable] === 1) return;
    this.#isChanged[variable] = 1;
    this.changed.push(variable);
  }

  #start(variable: number): number {
    return this.offsets[variable] ?? 0;
  }

  #end(variable: number): number {
    return this.offsets[variable + 1] ?? 0;
  }
}

/** A mask over so many values that has these. */
export function maskOf(size: number, values: Iterable<number>): Uint32Array {
  const mask = new Uint32Array(wordsFor(size));
  for (const value of values) mask[value >>> 5] = ((mask[value >>> 5] ?? 0) | (1 << (value & 31))) >>> 0;
  return mask;
}

function allBits(size: number): Uint32Array {
  const words = new Uint32Array(wordsFor(size)).fill(0xffffffff);
  if (size % 32 !== 0) words[words.length - 1] = (1 << (size % 32)) - 1;
  return words;
}

function wordsFor(size: number): number {
  return Math.max(1, Math.ceil(size / 32));
}

/** H. S. Warren, "Hacker's Delight" (2002), 5-1. */
function countBits(word: number): number {
  let bits = word - ((word >>> 1) & 0x55555555);
  bits = (bits & 0x33333333) + ((bits >>> 2) & 0x33333333);
  return Math.imul((bits + (bits >>> 4)) & 0x0f0f0f0f, 0x01010101) >>> 24;
}
