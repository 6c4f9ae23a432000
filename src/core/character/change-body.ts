import type { Catalog } from "../catalog/catalog.ts";
import type { Character } from "./character.ts";
import type { Edit, EditResult } from "./edit.ts";
import { refuse, unknownId } from "./refuse.ts";
import { sayUnmetNeed, unmetNeeds } from "./stats.ts";
import { takeOff } from "./take-off.ts";
import { fitsBody, wornParts } from "./worn.ts";

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
  // Taking one part off may leave another's need unmet, so we look again until all are met; every turn takes one off.
  for (;;) {
    const unmet = unmetNeeds(catalog, current).find(({ worn }) => !worn.issued);
    if (unmet === undefined) return { ok: true, character: current, displaced };
    const lighter = takeOff(catalog, current, [{ worn: unmet.worn, because: sayUnmetNeed(unmet) }]);
    current = lighter.character;
    displaced.push(...lighter.displaced);
  }
}
