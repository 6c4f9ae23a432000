import { getOwn } from "../../base/record.ts";
import type { Catalog } from "../../catalog/model/catalog.ts";
import { addToBag, type Bag, countInBag, takeFromBag } from "../../character/bag/bag.ts";
import type { Character } from "../../character/character.ts";
import type { Versions } from "./versions.ts";

/** Whether a part that is worn there is one of the things a player has, and goes to the bag when it is taken off. */
export function isCounted({ slots, parts }: Catalog, slot: string, part: string): boolean {
  // What the catalog does not know may be a thing, so it is kept.
  return slots.get(slot)?.kind !== "appearance" || !parts.has(part);
}

/**
 * The bag beside a merged loadout. Of each part as many are there as before, and what either side gained or lost; those that are worn
 * are not in the bag.
 *
 * @param short - called for each time a part is worn more often than there are of it.
 */
export function mergeBags(
  catalog: Catalog,
  versions: Versions<Character>,
  loadout: Character["loadout"],
  short: (part: string) => void,
): Bag {
  const { base, mine, theirs } = versions;
  let bag: Bag = {};
  for (const part of partsOf(versions)) {
    const total = (of: Character) => countInBag(of.bag, part) + wornTimes(catalog, of.loadout, part);
    const gained = [total(mine) - total(base), total(theirs) - total(base)] as const;
    const once = Math.max(0, Math.min(...gained, wornByBoth(catalog, versions, part)));
    const count = total(base) + gained[0] + gained[1] - once - wornTimes(catalog, loadout, part);
    for (let lacking = count; lacking < 0; lacking += 1) short(part);
    bag = { ...bag, ...stacksOf(catalog, versions, part, Math.max(0, count)) };
  }
  return bag;
}

function partsOf({ base, mine, theirs }: Versions<Character>): ReadonlySet<string> {
  return new Set([base, mine, theirs].flatMap(({ bag, loadout }) => [...Object.keys(bag), ...Object.values(loadout)]));
}

function wornTimes(catalog: Catalog, loadout: Character["loadout"], part: string): number {
  return Object.keys(loadout).filter((slot) => loadout[slot] === part && isCounted(catalog, slot, part)).length;
}

/** In how many slots both sides put on the same part. Where it was handed out new for that, it was for the same reason, so it is one. */
function wornByBoth(catalog: Catalog, { base, mine, theirs }: Versions<Character>, part: string): number {
  return Object.keys(mine.loadout).filter(
    (slot) =>
      mine.loadout[slot] === part &&
      getOwn(theirs.loadout, slot) === part &&
      getOwn(base.loadout, slot) !== part &&
      isCounted(catalog, slot, part),
  ).length;
}

/** So many of a part, in the stacks of whoever changed them; where both did, in theirs, with more or fewer. */
function stacksOf(catalog: Catalog, { base, mine, theirs }: Versions<Character>, part: string, count: number): Bag {
  const isMine = isAlike(base.bag, theirs.bag, part);
  let bag: Bag = { [part]: getOwn((isMine ? mine : theirs).bag, part) ?? [] };
  const more = count - countInBag(bag, part);
  if (more > 0) bag = addToBag(catalog, bag, part, more);
  for (let left = more; left < 0; left += 1) bag = takeFromBag(bag, part);
  return count === 0 ? {} : bag;
}

function isAlike(one: Bag, other: Bag, part: string): boolean {
  return String(getOwn(one, part)) === String(getOwn(other, part));
}
