import type { Body, Catalog } from "../catalog/catalog.ts";
import { valueAt } from "../record.ts";
import type { Character } from "./character.ts";
import { type Worn, wornParts } from "./worn.ts";

/** Numbers by stat id. */
export type Stats = Readonly<Record<string, number>>;

/**
 * A character's stats: what its body has, what its parts give, within the bounds of the catalog.
 *
 *     value = bounded( (body + Σ add) × Π times )
 *
 * Sums come before products and products before bounds, so the order in which parts were put on makes no difference. A stat
 * that nothing names is not in the result; one that is only given starts from 0.
 *
 * @returns stats by id, in the order body, then slots of the catalog.
 * @example
 * statsOf(catalog, wren) // → { strength: 4, carry: 14, warmth: 3, weight: 2 }
 */
export function statsOf(catalog: Catalog, character: Pick<Character, "body" | "loadout">): Stats {
  const body = catalog.bodies.get(character.body);
  return body === undefined ? {} : statsOfWorn(catalog, body, wornParts(catalog, character));
}

/** A need of a worn part that is not met. */
export interface UnmetNeed {
  readonly worn: Worn;
  readonly stat: string;
  readonly needed: number;
  /** What there is without the part's own contribution: no part helps to meet its own need. */
  readonly found: number;
}

/** The needs of worn parts that are not met, in the order of the catalog's slots. */
export function unmetNeeds(catalog: Catalog, character: Pick<Character, "body" | "loadout">): readonly UnmetNeed[] {
  const body = catalog.bodies.get(character.body);
  if (body === undefined) return [];
  const worn = wornParts(catalog, character);
  return worn.flatMap((each) => {
    const needs = Object.entries(each.part.needs);
    if (needs.length === 0) return [];
    const stats = statsOfWorn(
      catalog,
      body,
      worn.filter((other) => other !== each),
    );
    return needs
      .map(([stat, needed]): UnmetNeed => ({ worn: each, stat, needed, found: valueAt(stats, stat) ?? 0 }))
      .filter(({ needed, found }) => found < needed);
  });
}

/** One sentence that says which need is not met, and by how much. */
export function sayUnmetNeed({ worn, stat, needed, found }: UnmetNeed): string {
  return `"${worn.part.id}" needs ${needed} ${stat}, and there is ${found} without it.`;
}

function statsOfWorn(catalog: Catalog, body: Body, worn: readonly Worn[]): Stats {
  const sums = new Map(Object.entries(body.stats));
  const products = new Map<string, number>();
  for (const { part } of worn) {
    for (const [stat, { add, times }] of Object.entries(part.gives)) {
      sums.set(stat, (sums.get(stat) ?? 0) + add);
      products.set(stat, (products.get(stat) ?? 1) * times);
    }
  }
  return Object.fromEntries(
    [...sums].map(([stat, sum]) => [stat, bounded(catalog, stat, sum * (products.get(stat) ?? 1))]),
  );
}

function bounded(catalog: Catalog, stat: string, value: number): number {
  const { least, most } = catalog.stats.get(stat) ?? {
    least: Number.NEGATIVE_INFINITY,
    most: Number.POSITIVE_INFINITY,
  };
  return Math.min(most, Math.max(least, value));
}
