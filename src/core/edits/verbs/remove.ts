import type { Character } from "../../character/character.ts";
import type { Edit, EditResult } from "../../character/edit.ts";
import { fixOf, loadoutProblem, refuse, unknownId } from "../../character/refuse.ts";
import { sayText, type Voice } from "../../character/wording.ts";
import { wornParts } from "../../rules/worn.ts";
import { takeOff } from "../take-off.ts";

/** Empties a slot; a required one shows its default again. */
export function remove(voice: Voice, character: Character, edit: Extract<Edit, { remove: string }>): EditResult {
  const slot = voice.catalog.slots.get(edit.remove);
  if (slot === undefined) return refuse(character, unknownId(voice, "slot", edit.remove, ["loadout"]));
  const worn = wornParts(voice.catalog, character).find((each) => each.slot === slot.id);
  if (worn === undefined) return { ok: true, character, displaced: [] };
  if (worn.issued) {
    const problem = loadoutProblem(voice, "default-stays", {
      subject: { kind: "slot", id: slot.id },
      at: ["loadout", slot.id],
      words: { part: worn.part.id, slot: slot.id },
      fixes: [fixOf(voice, "put-another-on")],
    });
    return refuse(character, problem);
  }
  return { ok: true, ...takeOff(voice, character, [{ worn, because: sayText(voice, "was-taken-off") }]) };
}
