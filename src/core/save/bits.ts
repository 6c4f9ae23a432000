/** Writes numbers bit by bit, the highest bit first. */
export class BitWriter {
  readonly #bits: number[] = [];

  /** @param width - how many bits, up to 32. */
  write(value: number, width: number): void {
    for (let bit = width - 1; bit >= 0; bit -= 1) this.#bits.push((value >>> bit) & 1);
  }

  /** What was written, filled up with zeros to whole groups. @param width - bits in a group. */
  groups(width: number): number[] {
    const groups: number[] = [];
    for (let at = 0; at < this.#bits.length; at += width) {
      let group = 0;
      for (let bit = 0; bit < width; bit += 1) group = (group << 1) | (this.#bits[at + bit] ?? 0);
      groups.push(group);
    }
    return groups;
  }
}

/** Reads numbers bit by bit, the highest bit first. */
export class BitReader {
  readonly #groups: readonly number[];
  readonly #width: number;
  #at = 0;

  /** @param width - bits in a group. */
  constructor(groups: readonly number[], width: number) {
    this.#groups = groups;
    this.#width = width;
  }

  /** How many bits are left. */
  get left(): number {
    return this.#groups.length * this.#width - this.#at;
  }

  /** The next bits as a number, or `undefined` when there are not so many left. */
  read(width: number): number | undefined {
    if (this.#at + width > this.#groups.length * this.#width) return undefined;
    let value = 0;
    for (let left = width; left > 0; left -= 1, this.#at += 1) {
      const group = this.#groups[Math.floor(this.#at / this.#width)] ?? 0;
      value = (value << 1) | ((group >>> (this.#width - 1 - (this.#at % this.#width))) & 1);
    }
    return value >>> 0;
  }
}
