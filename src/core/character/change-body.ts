import type { Catalog } from "../catalog/catalog.ts";
import type { Character } from "./character.ts";
import type { Edit, EditResult } from "./edit.ts";
import { refuse, unknownId } from "./refuse.ts";
import { takeOff } from "./take-off.ts";
import { fitsBody, wornParts } from "./worn.ts";

/** Changes the body. Every choice that fits the new body stays; what does not is taken off, gear to the bag. */
export function changeBody(catalog: Catalog, character: Character, edit: Extract<Edit, { body: string }>): EditResult {
  const body = catalog.bodies.get(edit.body);
  if (body === undefined) return refuse(character, unknownId("body", edit.body, catalog.bodies, ["body"]));
  const misfits = wornParts(catalog, character).filter(({ part, issued }) => !issued && !fitsBody(part, body.id));
  const leaving = misfits.map((worn) => ({ worn, because: `"${worn.part.id}" was not made for body "${body.id}".` }));
  const { character: stripped, displaced } = takeOff(catalog, character, leaving);
  return { ok: true, character: { ...stripped, body: body.id }, displaced };
}
