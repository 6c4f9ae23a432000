import type { ItemTable } from "./items.ts";
import type { PairTable } from "./pair-table.ts";

/**
 * So many characters at least are needed to show some pairs.
 *
 * Items of one group are never shown together, nor are items that are apart. Of two sets of items like that, a character shows one item each at
 * most, and so one pair between them: there have to be as many characters as there are such pairs.
 *
 * @param possible - all pairs but those of which it is proven that nobody shows them.
 * @param seen - pairs that somebody shows.
 */
export function leastCharacters(table: ItemTable, possible: PairTable, seen: PairTable): number {
  const exclusive = exclusiveSets(table, possible);
  let least = 0;
  for (const [at, one] of exclusive.entries()) {
    for (const other of exclusive.slice(at + 1)) least = Math.max(least, pairsBetween(one, other, seen));
  }
  return least;
}

/** For each group, its items and others of which no two are shown together: those in the most pairs rather than others. */
function exclusiveSets(
  { items, groupOf, sizes, areWanted }: ItemTable,
  pairs: PairTable,
): readonly (readonly number[])[] {
  const numbers = [...items.keys()].sort((one, other) => pairs.pairsOf(other) - pairs.pairsOf(one));
  return sizes.map((_, group) => {
    const set = numbers.filter((item) => groupOf[item] === group);
    for (const item of numbers) {
      const isExclusive = (other: number) =>
        groupOf[item] === groupOf[other] || (areWanted(item, other) && !pairs.has(item, other));
      if (groupOf[item] !== group && pairs.pairsOf(item) > 0 && set.every(isExclusive)) set.push(item);
    }
    return set;
  });
}

function pairsBetween(ones: readonly number[], others: readonly number[], pairs: PairTable): number {
  const between = new Set<string>();
  for (const one of ones) {
    for (const other of others) {
      if (one !== other && pairs.has(one, other)) between.add(one < other ? `${one} ${other}` : `${other} ${one}`);
    }
  }
  return between.size;
}
