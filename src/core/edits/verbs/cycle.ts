import type { Catalog } from "../../catalog/model/catalog.ts";
import type { Character } from "../../character/character.ts";
import type { Edit, EditResult, Edits } from "../../character/edit.ts";
import { refuse, unknownId } from "../../character/refuse.ts";
import { wornParts } from "../../rules/worn.ts";
import type { VerbModule } from "../verb.ts";

/**
 * Moves a slot to the next choice that can be worn, in the order of the catalog, wrapping at the ends.
 *
 * @param attempt - does an edit, and judges it.
 */
export function cycle(
  catalog: Catalog,
  character: Character,
  edit: Edits["cycle"],
  attempt: (edit: Edit) => EditResult,
): EditResult {
  const slot = catalog.slots.get(edit.cycle);
  if (slot === undefined) return refuse(character, unknownId(catalog, "slot", edit.cycle, ["loadout"]));
  const current = wornParts(catalog, character).find((worn) => worn.slot === slot.id)?.part.id;
  const choices = [...(slot.required ? [] : [undefined]), ...slot.parts.map(({ id }) => id)];
  const start = choices.indexOf(current);
  for (let distance = 1; distance < choices.length; distance += 1) {
    const at = start + edit.step * distance + (start < 0 && edit.step < 0 ? 1 : 0);
    const choice = choices[((at % choices.length) + choices.length) % choices.length];
    const result = attempt(choice === undefined ? { remove: slot.id } : { wear: choice, in: slot.id });
    if (result.ok) return result;
  }
  return { ok: true, character, displaced: [] };
}

/** The verb `cycle`. */
export const cycleVerb: VerbModule<"cycle"> = {
  apply: (edit, { catalog, character, judged }) => cycle(catalog, character, edit, judged),
};
