import { getOwn, without } from "../../base/record.ts";
import type { Catalog } from "../../catalog/model/catalog.ts";

/** Carried parts: of each, how many are in each of its stacks. */
export type Bag = Readonly<Record<string, readonly number[]>>;

/** How many of a part are carried. */
export function countInBag(bag: Bag, part: string): number {
  return (getOwn(bag, part) ?? []).reduce((sum, count) => sum + count, 0);
}

/** How many stacks a bag holds. */
export function stacksIn(bag: Bag): number {
  return Object.values(bag).reduce((sum, stacks) => sum + stacks.length, 0);
}

/** How many of a part fit on one stack; one, for a part the catalog does not know. */
export function stackSize(catalog: Catalog, part: string): number {
  return catalog.parts.get(part)?.stack ?? 1;
}

/** The bag with so many more of a part: on the stacks with room, the first ones first, and then on stacks of their own. */
export function addToBag(catalog: Catalog, bag: Bag, part: string, count = 1): Bag {
  const size = stackSize(catalog, part);
  let left = count;
  const filled = (getOwn(bag, part) ?? []).map((stack) => {
    const more = Math.min(left, Math.max(0, size - stack));
    left -= more;
    return stack + more;
  });
  return { ...bag, [part]: [...filled, ...stacked(left, size)] };
}

/** The bag with one fewer of a part, from its smallest stack; unchanged when there is none. */
export function takeFromBag(bag: Bag, part: string): Bag {
  const stacks = getOwn(bag, part) ?? [];
  if (stacks.length === 0) return bag;
  const least = stacks.indexOf(Math.min(...stacks));
  const left = stacks.map((count, at) => (at === least ? count - 1 : count)).filter((count) => count > 0);
  return left.length === 0 ? without(bag, part) : { ...bag, [part]: left };
}

/** The stacks that so many of a part come to when each is as full as it can be. */
export function stacked(count: number, size: number): readonly number[] {
  const full = new Array<number>(Math.floor(count / size)).fill(size);
  return count % size === 0 ? full : [...full, count % size];
}
