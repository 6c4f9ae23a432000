import type { Catalog } from "../catalog/catalog.ts";
import type { Character } from "./character.ts";
import type { Edit, EditResult } from "./edit.ts";
import { characterProblem, refuse, unknownId } from "./refuse.ts";
import { takeOff } from "./take-off.ts";
import { wornParts } from "./worn.ts";
import { wouldBreak } from "./would-break.ts";

/** Empties a slot; a required one shows its default again. */
export function remove(catalog: Catalog, character: Character, edit: Extract<Edit, { remove: string }>): EditResult {
  const slot = catalog.slots.get(edit.remove);
  if (slot === undefined) return refuse(character, unknownId("slot", edit.remove, catalog.slots, ["loadout"]));
  const worn = wornParts(catalog, character).find((each) => each.slot === slot.id);
  if (worn === undefined) return { ok: true, character, displaced: [] };
  if (worn.issued) {
    const because = `"${worn.part.id}" is what slot "${slot.id}" shows when nothing else is worn there, so it cannot be taken off.`;
    return refuse(
      character,
      characterProblem("required-slot", ["loadout", slot.id], because, { say: "Put something else on in its place." }),
    );
  }
  const leaving = [{ worn, because: "It was taken off." }];
  const { character: after, displaced } = takeOff(catalog, character, leaving);
  const breaks = wouldBreak(catalog, character, after, leaving, edit, slot.id);
  if (breaks.length > 0) return refuse(character, ...breaks);
  return { ok: true, character: after, displaced };
}
