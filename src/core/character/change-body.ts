import type { Character } from "./character.ts";
import type { Context } from "./context.ts";
import type { Displaced, Edit, EditResult } from "./edit.ts";
import { newlyBroken } from "./newly-broken.ts";
import { refuse, unknownId } from "./refuse.ts";
import { takeOff } from "./take-off.ts";
import { sayText, type Voice } from "./wording.ts";

/**
 * Changes the body. Every choice that fits the new body stays; what was not made for it, or needs more than it has, is taken
 * off, gear to the bag.
 */
export function changeBody(
  voice: Voice,
  character: Character,
  edit: Extract<Edit, { body: string }>,
  context: Context,
): EditResult {
  const body = voice.catalog.bodies.get(edit.body);
  if (body === undefined) return refuse(character, unknownId(voice, "body", edit.body, ["body"]));
  let current: Character = { ...character, body: body.id };
  const displaced: Displaced[] = [];
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
