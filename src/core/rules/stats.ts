import type { Catalog, Part } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import type { LoadoutState } from "./loadout-state.ts";
import { withLoadout, wornIn } from "./worn.ts";

/** Numbers by stat id. */
export type Stats = Readonly<Record<string, number>>;

/**
 * A character's stats: what its body has, what the game adds, what its parts and sets give, within the bounds of the catalog.
 *
 *     value = bounded( (body + context + Σ add) × Π times )
 *
 * Sums come before products and products before bounds, so the order in which parts were put on makes no difference. A stat
 * that nothing names is not in the result; one that is only given starts from 0.
 *
 * @returns stats by id, in the order body, game, then slots of the catalog, then sets.
 * @example
 * statsOf(catalog, wren) // → { strength: 4, carry: 8, warmth: 10, weight: 7, wading: 1, light: 3 }
 */
export function statsOf(
  catalog: Catalog,
  character: Pick<Character, "body" | "loadout" | "facts">,
  context: Pick<Context, "stats"> = {},
): Stats {
  const body = catalog.bodies.get(character.body);
  if (body === undefined) return {};
  const sums = new Map(Object.entries(body.stats));
  for (const [stat, add] of Object.entries(context.stats ?? {})) sums.set(stat, (sums.get(stat) ?? 0) + add);
  const products = new Map<string, number>();
  const giftsIn = (state: LoadoutState) => [...wornIn(state).map(({ part }) => part.gives), ...setGifts(state)];
  for (const gifts of withLoadout(catalog, character, {}, giftsIn)) {
    for (const [stat, { add, times }] of Object.entries(gifts)) {
      sums.set(stat, (sums.get(stat) ?? 0) + add);
      products.set(stat, (products.get(stat) ?? 1) * times);
    }
  }
  return Object.fromEntries(
    [...sums].map(([stat, sum]) => [stat, bounded(catalog, stat, sum * (products.get(stat) ?? 1))]),
  );
}

/** What is given because several parts are worn together. */
function setGifts(state: LoadoutState): readonly Part["gives"][] {
  const { sets } = state.catalog.compiled;
  return sets.filter((set) => state.isReached(set)).map(({ gives }) => gives);
}

function bounded(catalog: Catalog, stat: string, value: number): number {
  const { min, max } = catalog.stats.get(stat) ?? {
    min: Number.NEGATIVE_INFINITY,
    max: Number.POSITIVE_INFINITY,
  };
  return Math.min(max, Math.max(min, value));
}
