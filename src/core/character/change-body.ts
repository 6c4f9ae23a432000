import type { Catalog } from "../catalog/catalog.ts";
import type { Character } from "./character.ts";
import type { Edit, EditResult } from "./edit.ts";
import { refuse, unknownId } from "./refuse.ts";
import { sayUnmetNeed, unmetNeeds } from "./stats.ts";
import { type Leaving, takeOff } from "./take-off.ts";
import { fitsBody, wornParts } from "./worn.ts";
import { newlyBroken } from "./would-break.ts";

/**
 * Changes the body. Every choice that fits the new body stays; what was not made for it, or needs more than it has, is taken
 * off, gear to the bag.
 */
export function changeBody(catalog: Catalog, character: Character, edit: Extract<Edit, { body: string }>): EditResult {
  const body = catalog.bodies.get(edit.body);
  if (body === undefined) return refuse(character, unknownId("body", edit.body, catalog.bodies, ["body"]));
  const misfits = wornParts(catalog, character).filter(({ part, issued }) => !issued && !fitsBody(part, body.id));
  const leaving = misfits.map((worn) => ({ worn, because: `"${worn.part.id}" was not made for body "${body.id}".` }));
  const stripped = takeOff(catalog, { ...character, body: body.id }, leaving);
  let current = stripped.character;
  const displaced = [...stripped.displaced];
  // Taking one part off may break something else, so we look again until all holds; every turn takes one part off.
  for (;;) {
    const next = mustGo(catalog, character, current);
    if (next === undefined) return { ok: true, character: current, displaced };
    const lighter = takeOff(catalog, current, [next]);
    current = lighter.character;
    displaced.push(...lighter.displaced);
  }
}

/** A worn part whose need the new body does not meet, or without which a rule that held before would hold again. */
function mustGo(catalog: Catalog, before: Character, now: Character): Leaving | undefined {
  const unmet = unmetNeeds(catalog, now).find(({ worn }) => !worn.issued);
  if (unmet !== undefined) return { worn: unmet.worn, because: sayUnmetNeed(unmet) };
  const broken = newlyBroken(catalog, before, now).find(({ culprits }) => culprits.length > 0);
  const worn = broken?.culprits.at(-1);
  return broken === undefined || worn === undefined ? undefined : { worn, because: broken.because };
}
