import type { Catalog } from "../catalog/catalog.ts";
import type { Character } from "./character.ts";
import type { Edit, EditContext, EditResult } from "./edit.ts";
import { refuse, unknownId } from "./refuse.ts";
import { remove } from "./remove.ts";
import { wear } from "./wear.ts";
import { wornParts } from "./worn.ts";

/** Moves a slot to the next choice that can be worn, in the order of the catalog, wrapping at the ends. */
export function cycle(
  catalog: Catalog,
  character: Character,
  edit: Extract<Edit, { cycle: string }>,
  context: EditContext,
): EditResult {
  const slot = catalog.slots.get(edit.cycle);
  if (slot === undefined) return refuse(character, unknownId("slot", edit.cycle, catalog.slots, ["loadout"]));
  const current = wornParts(catalog, character).find((worn) => worn.slot === slot.id)?.part.id;
  const choices = [...(slot.required ? [] : [undefined]), ...slot.parts.map(({ id }) => id)];
  const start = choices.indexOf(current);
  for (let distance = 1; distance < choices.length; distance += 1) {
    const at = start + edit.step * distance + (start < 0 && edit.step < 0 ? 1 : 0);
    const choice = choices[((at % choices.length) + choices.length) % choices.length];
    const result =
      choice === undefined
        ? remove(catalog, character, { remove: slot.id })
        : wear(catalog, character, { wear: choice, in: slot.id }, context);
    if (result.ok) return result;
  }
  return { ok: true, character, displaced: [] };
}
