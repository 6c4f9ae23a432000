import type { Catalog, Part } from "../catalog/catalog.ts";
import { valueAt } from "../record.ts";
import type { Character } from "./character.ts";

/** A part in the slot where it is worn. */
export interface Worn {
  readonly slot: string;
  readonly part: Part;
  /** Worn because the slot is required and nothing else is in it; not chosen, and not owned. */
  readonly issued: boolean;
}

/**
 * The parts a character wears, in the order of the catalog's slots, with the defaults of required slots put on.
 *
 * Slots and parts the catalog does not know are passed over; `checkLoadout` names them.
 */
export function wornParts(catalog: Catalog, character: Pick<Character, "loadout" | "body">): readonly Worn[] {
  const chosen: Worn[] = [];
  const taken = new Set<string>();
  for (const slot of catalog.slots.values()) {
    const part = catalog.parts.get(valueAt(character.loadout, slot.id) ?? "");
    if (part === undefined) continue;
    chosen.push({ slot: slot.id, part, issued: false });
    taken.add(slot.id);
    for (const each of part.occupies) taken.add(each);
  }
  const worn: Worn[] = [];
  for (const slot of catalog.slots.values()) {
    const choice = chosen.find((each) => each.slot === slot.id);
    if (choice !== undefined) worn.push(choice);
    else if (slot.required && slot.default !== undefined && !taken.has(slot.id)) {
      const part = catalog.parts.get(slot.default);
      if (part !== undefined) worn.push({ slot: slot.id, part, issued: true });
    }
  }
  return worn;
}

/** Whether the part was made for the body. */
export function fitsBody(part: Part, body: string): boolean {
  return part.fits === undefined || part.fits.has(body);
}
