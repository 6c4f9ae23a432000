import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

/** Random numbers, all from one seed. */
export interface Random {
  /** At least 0, less than 1. */
  next(): number;
  pick<T>(items: readonly T[]): T | undefined;
}

/** Random numbers from a seed, a whole number: the same seed always gives the same. */
export function randomFrom(seed: number): Random {
  const generator = xoroshiro128plus(scattered(seed));
  // What a generator of this kind gives first depends on few bits of its seed.
  for (let skipped = 0; skipped < 8; skipped += 1) generator.next();
  // As many numbers as fit whole into the generator's range lead to each result; the rest are drawn again.
  const below = (count: number) => {
    const fitting = Math.floor(2 ** 32 / count) * count;
    for (;;) {
      const drawn = generator.next() + 2 ** 31;
      if (drawn < fitting) return drawn % count;
    }
  };
  return {
    next: () => below(2 ** 30) / 2 ** 30,
    pick: (items) => (items.length === 0 ? undefined : items[below(items.length)]),
  };
}

/** A whole number of 32 bits in which every bit depends on every bit of another (A. Appleby, the finalizer of MurmurHash3). */
function scattered(number: number): number {
  let bits = number | 0;
  bits = Math.imul(bits ^ (bits >>> 16), 0x85ebca6b);
  bits = Math.imul(bits ^ (bits >>> 13), 0xc2b2ae35);
  return bits ^ (bits >>> 16);
}
