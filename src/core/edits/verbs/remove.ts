import { message } from "../../base/message.ts";
import type { Catalog } from "../../catalog/model/catalog.ts";
import type { Character } from "../../character/character.ts";
import type { EditResult, Edits } from "../../character/edit.ts";
import { fixBy, loadoutProblem, refuse, unknownId } from "../../character/refuse.ts";
import { wornParts } from "../../rules/worn.ts";
import { takeOff } from "../take-off.ts";
import type { VerbModule } from "../verb.ts";

/** Empties a slot; a required one shows its default again. */
export function remove(catalog: Catalog, character: Character, edit: Edits["remove"]): EditResult {
  const slot = catalog.slots.get(edit.remove);
  if (slot === undefined) return refuse(character, unknownId(catalog, "slot", edit.remove, ["loadout"]));
  const worn = wornParts(catalog, character).find((each) => each.slot === slot.id);
  if (worn === undefined) return { ok: true, character, displaced: [] };
  if (worn.issued) {
    const problem = loadoutProblem("default-stays", {
      subject: { kind: "slot", id: slot.id },
      at: ["loadout", slot.id],
      params: { part: worn.part.id, slot: slot.id },
      fixes: [fixBy("put-another-on")],
    });
    return refuse(character, problem);
  }
  return { ok: true, ...takeOff(catalog, character, [{ worn, because: message("was-taken-off") }]) };
}

/** The verb `remove`. */
export const removeVerb: VerbModule<"remove"> = {
  apply: (edit, { catalog, character }) => remove(catalog, character, edit),
  aboutSlot: (edit) => [edit, edit.remove],
};
