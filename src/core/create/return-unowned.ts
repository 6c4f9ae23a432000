import type { Catalog } from "../catalog/model/catalog.ts";
import { countInBag, takeFromBag } from "../character/bag/bag.ts";
import type { Character } from "../character/character.ts";

/**
 * Gives back what was only tried on: of each part, the bag keeps no more than what the player owned at the start and does not
 * wear now.
 */
export function returnUnowned(catalog: Catalog, draft: Character, original: Character): Character {
  const ownedAtStart = countGear(catalog, original);
  const ownedNow = countGear(catalog, draft);
  let { bag } = draft;
  for (const [part, count] of ownedNow) {
    let surplus = Math.min(count - (ownedAtStart.get(part) ?? 0), countInBag(bag, part));
    for (; surplus > 0; surplus -= 1) bag = takeFromBag(bag, part);
  }
  return bag === draft.bag ? draft : { ...draft, bag };
}

/** How many of each part a character has, in the bag and worn as gear. */
export function countGear(
  catalog: Catalog,
  character: Pick<Character, "bag" | "loadout">,
): ReadonlyMap<string, number> {
  const counts = new Map(Object.keys(character.bag).map((part) => [part, countInBag(character.bag, part)]));
  for (const [slot, part] of Object.entries(character.loadout)) {
    if (catalog.slots.get(slot)?.kind === "gear") counts.set(part, (counts.get(part) ?? 0) + 1);
  }
  return counts;
}
