import type { Message } from "../base/message.ts";
import { without } from "../base/record.ts";
import type { Catalog } from "../catalog/model/catalog.ts";
import { addToBag } from "../character/bag/bag.ts";
import type { Character } from "../character/character.ts";
import type { Displaced } from "../character/edit.ts";
import type { Worn } from "../rules/worn.ts";

/** A worn part that has to go, and why. */
export interface Leaving {
  readonly worn: Worn;
  readonly because: Message;
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
    if (owned) bag = addToBag(catalog, bag, worn.part.id);
    displaced.push({ part: worn.part.id, slot: worn.slot, to: owned ? "bag" : "nowhere", because });
  }
  return { character: { ...character, loadout, bag }, displaced };
}
