import type { Catalog } from "../catalog/catalog.ts";
import { without } from "../record.ts";
import { addToBag } from "./bag.ts";
import type { Character } from "./character.ts";
import { conflictsBetween, sayConflict } from "./conflict.ts";
import type { Displaced } from "./edit.ts";
import { sayUnmetNeed, unmetNeeds } from "./stats.ts";
import type { Worn } from "./worn.ts";
import { wornParts } from "./worn.ts";

/** A worn part that has to go, and why. */
export interface Leaving {
  readonly worn: Worn;
  readonly because: string;
}

/** Takes parts off; gear goes to the bag. */
export function takeOff(
  catalog: Catalog,
  character: Character,
  leaving: readonly Leaving[],
): { character: Character; displaced: readonly Displaced[] } {
  let { loadout, bag } = character;
  const displaced: Displaced[] = [];
  for (const { worn, because } of leaving) {
    const owned = catalog.slots.get(worn.slot)?.kind === "gear";
    loadout = without(loadout, worn.slot);
    if (owned) bag = addToBag(bag, worn.part.id);
    displaced.push({ part: worn.part.id, slot: worn.slot, to: owned ? "bag" : "nowhere", because });
  }
  return { character: { ...character, loadout, bag }, displaced };
}

/**
 * What keeps a character from becoming what an edit would make of it: a required slot nothing would fill, a default that comes
 * back and may not be worn with the rest, or a need of a part that would no longer be met. Sentences; none when nothing does.
 */
export function reasonsAgainstChange(
  catalog: Catalog,
  before: Character,
  after: Character,
  leaving: readonly Leaving[],
): readonly string[] {
  const worn = wornParts(catalog, after);
  const filled = new Set(worn.flatMap(({ slot, part }) => [slot, ...part.occupies]));
  const empty = leaving
    .filter(({ worn: { slot } }) => catalog.slots.get(slot)?.required && !filled.has(slot))
    .map(
      ({ worn: { slot, part } }) =>
        `Slot "${slot}" must not be empty, and nothing would take the place of "${part.id}".`,
    );
  const returned = worn.filter(({ issued }) => issued);
  const clashes = returned.flatMap((back) =>
    worn.filter((other) => other !== back).flatMap((other) => conflictsBetween(back, other)),
  );
  const unmetBefore = new Set(unmetNeeds(catalog, before).map(sayUnmetNeed));
  const unmet = unmetNeeds(catalog, after)
    .map(sayUnmetNeed)
    .filter((reason) => !unmetBefore.has(reason));
  return [...empty, ...clashes.map(sayConflict), ...unmet];
}
