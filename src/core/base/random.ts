import { mersenne } from "pure-rand/generator/mersenne";

/** Random numbers, all from one seed. */
export interface Random {
  /** At least 0, less than 1. */
  next(): number;
  pick<T>(items: readonly T[]): T | undefined;
}

/** Random numbers from a seed, a whole number: the same seed always gives the same. */
export function randomFrom(seed: number): Random {
  // Seeds next to each other must not begin alike, which those of shift-register generators do.
  const generator = mersenne(seed | 0);
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
