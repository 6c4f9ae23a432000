import type { Budget } from "../../solver/budget-of.ts";
import type { Dressed, Dresser } from "./dresser.ts";
import type { ItemTable } from "./items.ts";
import type { Pair, PairTable } from "./pair-table.ts";

/** What characters are put together with. */
export interface Dressing {
  readonly table: ItemTable;
  /** One for each body. */
  readonly dressers: readonly Dresser[];
  readonly random: () => number;
  readonly budget: Budget;
}

/** Characters on which pairs are seen. */
export interface Cover {
  readonly set: readonly Dressed[];
  /** Pairs that no valid character shows, besides those of which that is seen at once. */
  readonly apart: readonly Pair[];
  /** Whether every pair is seen or apart; `false` when the budget ran out. */
  readonly complete: boolean;
}

/** Puts one character after the other together until every pair was seen that can be. Takes the pairs from the table. */
export function coverPairs(dressing: Dressing, pairs: PairTable): Cover {
  const { random, budget } = dressing;
  const set: Dressed[] = [];
  const apart: Pair[] = [];
  const add = (dressed: Dressed) => {
    if (takePairs(pairs, dressed) > 0) set.push(dressed);
  };
  while (pairs.left > 0) {
    if (budget.steps <= 0) return { set, apart, complete: false };
    const before = pairs.left;
    const dressed = likeliest(dressing, pairs)?.dress([], pairs, random, budget);
    if (dressed !== undefined) add(dressed);
    if (pairs.left < before) continue;
    // What is left is not found by what adds most: each is looked for by itself.
    for (const pair of pairs.pairs()) {
      if (!pairs.has(...pair)) continue;
      const found = dressPair(dressing, pair, pairs);
      if (found === "gave-up") return { set, apart, complete: false };
      if (found !== "none") add(found);
      else {
        apart.push(pair);
        pairs.take(...pair);
      }
    }
  }
  return { set, apart, complete: true };
}

/** The body on which most is left to see; of several, any. */
function likeliest({ dressers, table, random }: Dressing, pairs: PairTable): Dresser | undefined {
  let best: Dresser | undefined;
  let most = -1;
  for (const dresser of dressers) {
    let left = 0;
    for (let item = 0; item < table.items.length; item += 1) if (dresser.isPossible(item)) left += pairs.pairsOf(item);
    // Bodies that may wear the same take turns.
    const worth = left * (1 + random() / 100);
    if (worth <= most) continue;
    most = worth;
    best = dresser;
  }
  return best;
}

/** A character with a pair, on the body on which most others are seen with it. */
export function dressPair(
  { dressers, random, budget }: Dressing,
  pair: Pair,
  pairs: PairTable,
): Dressed | "none" | "gave-up" {
  let best: Dressed | undefined;
  let most = -1;
  for (const dresser of dressers) {
    const can = dresser.canShow(pair, budget);
    if (can === undefined) return "gave-up";
    if (!can) continue;
    const dressed = dresser.dress(pair, pairs, random, budget);
    if (dressed === undefined) return "gave-up";
    const gain = countPairs(pairs, dressed);
    if (gain <= most) continue;
    most = gain;
    best = dressed;
  }
  return best ?? "none";
}

/** Calls with every two items that a character shows. */
export function eachPair({ items }: Dressed, act: (one: number, other: number) => void): void {
  for (let at = 0; at < items.length; at += 1) {
    for (let next = at + 1; next < items.length; next += 1) act(items[at] as number, items[next] as number);
  }
}

/** Takes the pairs that a character shows. Returns how many were left of them. */
export function takePairs(pairs: PairTable, dressed: Dressed): number {
  const before = pairs.left;
  eachPair(dressed, (one, other) => pairs.take(one, other));
  return before - pairs.left;
}

function countPairs(pairs: PairTable, dressed: Dressed): number {
  let count = 0;
  eachPair(dressed, (one, other) => {
    if (pairs.has(one, other)) count += 1;
  });
  return count;
}
