import { MantleError } from "../../base/problem.ts";
import { randomFrom } from "../../base/random.ts";
import { requireKnown } from "../../base/require-known.ts";
import type { Catalog, CatalogIds } from "../../catalog/model/catalog.ts";
import type { Character } from "../../character/character.ts";
import type { SearchLimits } from "../../loadout/solver.ts";
import { budgetOf } from "../../solver/budget-of.ts";
import { coverPairs, type Dressing } from "./cover-pairs.ts";
import { Dresser } from "./dresser.ts";
import { type Company, type Item, type ItemTable, listItems, singles } from "./items.ts";
import { leastCharacters } from "./least-characters.ts";
import { type Pair, PairTable } from "./pair-table.ts";
import { shrinkSet } from "./shrink-set.ts";
import { type IncompatibleSet, whyApart } from "./why-apart.ts";

export interface PairwiseOptions<Ids extends CatalogIds = CatalogIds> extends SearchLimits {
  /** The slots whose parts are to be seen together. @defaultValue all */
  readonly slots?: readonly Ids["slot"][];
  /** What parts are to be seen with, besides parts of other slots: every body; every ramp of the channels that they show. */
  readonly company?: readonly Company[];
  /** How many parts are to be seen together: with 3, every three of different slots besides every two. @defaultValue `2` */
  readonly strength?: 2 | 3;
  /** A whole number; the same seed always gives the same characters. @defaultValue `1` */
  readonly seed?: number;
  /** So few characters will do: it looks no longer for fewer then. */
  readonly enough?: number;
  /**
   * Search steps before it ends.
   *
   * @defaultValue `2_000_000`
   */
  readonly budget?: number;
}

/** Few characters on which everything is seen together that can be. */
export interface PairwiseCover {
  /** Valid, each of them, as long as the game signals nothing. */
  readonly characters: readonly Character[];
  /** So many characters there have to be at least: it is proven. */
  readonly lowerBound: number;
  /** How many pairs are seen on them, and how many threes. */
  readonly pairs: number;
  readonly threes: number;
  /** Items that can be worn, and never together: pairs, and threes of which each two can. */
  readonly apart: readonly IncompatibleSet[];
  /** Whether every pair that can be seen is seen; `false` when the budget ran out. */
  readonly isProven: boolean;
}

/**
 * Finds few characters on which every two parts of different slots are seen together that any valid character has together. All combinations
 * are too many to look at; most of what goes wrong does so between two.
 *
 * It begins with what shows most at a time, and then makes the set smaller for as long as that helps. `least` says how near to the fewest it
 * came. What rules a pair out is proven by the search that judges loadouts.
 *
 * @throws MantleError `unknown-slot`; `bad-call` for fewer than two slots with parts and no company.
 * @example
 * pairwiseCover(catalog, { company: ["bodies"] })
 * // → { characters: […], lowerBound: 56, pairs: 3379, apart: […], isProven: true, … }
 */
export function pairwiseCover<Ids extends CatalogIds>(
  catalog: Catalog<Ids>,
  options: PairwiseOptions<Ids> = {},
): PairwiseCover {
  const { slots = [...catalog.slots.keys()], company = [], seed = 1, enough = 0, strength = 2 } = options;
  for (const slot of slots) requireKnown("slot", slot, catalog.slots);
  const table = listItems(catalog, { slots: new Set(slots), company: new Set(company), strength });
  if (table.items.length > mostItems)
    throw new MantleError(
      "bad-call",
      `There are ${table.items.length} things to be seen together, and ${mostItems} are the most. Name fewer slots.`,
    );
  if (table.sizes.length < 2)
    throw new MantleError(
      "bad-call",
      "There is nothing to be seen together: name two slots that have parts, or company.",
    );
  const random = randomFrom(seed);
  const dressing: Dressing = {
    table,
    dressers: [...catalog.bodies.values()].map((body) => new Dresser(catalog, body, table)),
    random: () => random.next(),
    budget: budgetOf({ budget: 2_000_000, ...options }),
  };
  const wanted = probePairs(dressing);
  const all = wanted.copy();
  const cover = coverPairs(dressing, wanted);
  for (const pair of cover.apart) all.take(...pair);
  const seen = all.copy();
  for (const pair of wanted.pairs()) seen.take(...pair);
  const least = leastCharacters(table, all, seen);
  const set = cover.complete ? shrinkSet(dressing, cover, Math.max(least, enough)) : cover.set;
  return {
    characters: set.map((dressed, number) =>
      dressed.dresser.characterOf(dressed, `figure-${number + 1}`, `Figure ${number + 1}`),
    ),
    lowerBound: least,
    ...countsOf(table, seen),
    apart: whyApart(catalog, apartItems(dressing, all), budgetOf({ budget: 2_000_000, ...options })),
    isProven: cover.complete,
  };
}

/** More things than this are not looked at. */
const mostItems = 8_000;

/** How many pairs and threes are seen. */
function countsOf({ items }: ItemTable, seen: PairTable): Pick<PairwiseCover, "pairs" | "threes"> {
  const isThree = (pair: Pair) => pair.some((item) => items[item]?.kind === "couple");
  const threes = seen.pairs().filter(isThree).length;
  return { pairs: seen.left - threes, threes };
}

/** The pairs of which nothing is known yet that keeps them apart. */
function probePairs({ table, dressers }: Dressing): PairTable {
  const pairs = new PairTable(table);
  for (const dresser of dressers) {
    const ahead = new Set<number>();
    dresser.probe((one, other) => {
      if (!table.areWanted(one, other)) return;
      // What one rules out, the other may only rule out after some search.
      if (one < other) ahead.add(one * pairs.count + other);
      else if (ahead.has(other * pairs.count + one)) pairs.add(other, one);
    });
  }
  return pairs;
}

/** Items, each of which some character shows, that none shows together. */
function apartItems({ table, dressers, budget }: Dressing, all: PairTable): readonly (readonly Item[])[] {
  const isShown = (item: number) =>
    all.pairsOf(item) > 0 || dressers.some((dresser) => dresser.canShow([item], budget) === true);
  const shown = [...table.items.entries()].filter(([number]) => isShown(number));
  const apart = new Set<string>();
  return shown.flatMap(([one, first], at) =>
    shown.slice(at + 1).flatMap(([other, second]) => {
      if (!table.areWanted(one, other) || all.has(one, other)) return [];
      const items = [...singles(first), ...singles(second)];
      const names = items.map((item) => JSON.stringify(item)).sort();
      // Three are not named where two of them are apart already: those come first.
      const isKnown = names.some((name, place) => names.slice(place + 1).some((next) => apart.has(name + next)));
      if (items.length === 2) apart.add(names.join(""));
      return isKnown ? [] : [items];
    }),
  );
}
