import type { Body } from "../catalog/catalog.ts";
import { valueAt } from "../record.ts";
import type { Character } from "./character.ts";
import type { Context } from "./context.ts";
import type { Displaced, Edit, EditResult } from "./edit.ts";
import { fitsBody } from "./fits-body.ts";
import { newlyBroken } from "./newly-broken.ts";
import { loadoutProblem, refuse, unknownId } from "./refuse.ts";
import { takeOff } from "./take-off.ts";
import { sayText, type Voice } from "./wording.ts";

/** Changes the body to the one it grows into. */
export function growUp(voice: Voice, character: Character, context: Context): EditResult {
  const body = voice.catalog.bodies.get(character.body);
  if (body === undefined) return refuse(character, unknownId(voice, "body", character.body, ["body"]));
  if (body.growsInto !== undefined) return changeBody(voice, character, { body: body.growsInto }, context);
  const problem = loadoutProblem(voice, "fully-grown", {
    subject: { kind: "body", id: body.id },
    at: ["body"],
    words: { body: body.id },
  });
  return refuse(character, problem);
}

/**
 * Changes the body. Every choice that fits the new body stays; what was not made for it becomes its counterpart there; what has
 * none, or needs more than the body has, is taken off, gear to the bag.
 */
export function changeBody(
  voice: Voice,
  character: Character,
  edit: Extract<Edit, { body: string }>,
  context: Context,
): EditResult {
  const body = voice.catalog.bodies.get(edit.body);
  if (body === undefined) return refuse(character, unknownId(voice, "body", edit.body, ["body"]));
  const exchanged = counterparts(voice, character, body);
  let current: Character = { ...character, body: body.id, loadout: exchanged.loadout };
  const displaced: Displaced[] = [...exchanged.displaced];
  // Taking one part off may break something else, so we look again until all holds; every turn takes one part off.
  for (;;) {
    const broken = newlyBroken(voice.catalog, character, current, context).find(({ culprits }) => culprits.length > 0);
    const worn = broken?.culprits.at(-1);
    if (broken === undefined || worn === undefined) return { ok: true, character: current, displaced };
    const because = [sayText(voice, broken.code, broken.words), ...broken.authored].join(" ");
    const lighter = takeOff(voice, current, [{ worn, because }]);
    current = lighter.character;
    displaced.push(...lighter.displaced);
  }
}

/** What is worn and was not made for the new body, exchanged for what stands in its place there. */
function counterparts(
  voice: Voice,
  { loadout }: Character,
  body: Body,
): { readonly loadout: Character["loadout"]; readonly displaced: readonly Displaced[] } {
  const displaced: Displaced[] = [];
  const kept = Object.entries(loadout).map(([slot, id]): [string, string] => {
    const part = voice.catalog.parts.get(id);
    if (part === undefined || fitsBody(part, body.id)) return [slot, id];
    const other = voice.catalog.parts.get(valueAt(part.counterparts, body.id) ?? "");
    if (other === undefined || !other.slots.includes(slot) || !fitsBody(other, body.id)) return [slot, id];
    const because = sayText(voice, "counterpart", { part: id, body: body.id, other: other.id });
    displaced.push({ part: id, slot, to: "counterpart", becomes: other.id, because });
    return [slot, other.id];
  });
  return { loadout: Object.fromEntries(kept), displaced };
}
