import { valueAt, without } from "../record.ts";

type Bag = Readonly<Record<string, number>>;

/** How many of a part are carried. */
export function countInBag(bag: Bag, part: string): number {
  return valueAt(bag, part) ?? 0;
}

/** The bag with one more of a part. */
export function addToBag(bag: Bag, part: string): Bag {
  return { ...bag, [part]: countInBag(bag, part) + 1 };
}

/** The bag with one fewer of a part; unchanged when there is none. */
export function takeFromBag(bag: Bag, part: string): Bag {
  const count = countInBag(bag, part);
  if (count === 0) return bag;
  return count === 1 ? without(bag, part) : { ...bag, [part]: count - 1 };
}
