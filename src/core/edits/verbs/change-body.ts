import { type Message, message } from "../../base/message.ts";
import { getOwn } from "../../base/record.ts";
import type { Catalog } from "../../catalog/model/catalog.ts";
import type { Character } from "../../character/character.ts";
import type { Context } from "../../character/context.ts";
import type { Displaced, EditResult, Edits } from "../../character/edit.ts";
import { loadoutProblem, refuse, unknownId } from "../../character/refuse.ts";
import { fitsBody } from "../../rules/fits-body.ts";
import { newlyBroken } from "../../rules/newly-broken.ts";
import { takeOff } from "../take-off.ts";
import type { VerbModule } from "../verb.ts";
import { wear } from "./wear.ts";

/** Changes the body to the one it grows into. */
export function growUp(catalog: Catalog, character: Character, context: Context): EditResult {
  const body = catalog.bodies.get(character.body);
  if (body === undefined) return refuse(character, unknownId(catalog, "body", character.body, ["body"]));
  if (body.growsInto !== undefined) return changeBody(catalog, character, { body: body.growsInto }, context);
  const problem = loadoutProblem("fully-grown", {
    subject: { kind: "body", id: body.id },
    at: ["body"],
    params: { body: body.id },
  });
  return refuse(character, problem);
}

/**
 * Changes the body. Every choice that fits the new body stays; what was not made for it gives way to its counterpart there; what has
 * none, or needs more than the body has, is taken off. Gear goes to the bag.
 */
export function changeBody(catalog: Catalog, character: Character, edit: Edits["body"], context: Context): EditResult {
  const body = catalog.bodies.get(edit.body);
  if (body === undefined) return refuse(character, unknownId(catalog, "body", edit.body, ["body"]));
  const exchanged = putCounterpartsOn(catalog, { ...character, body: body.id }, context);
  let current = exchanged.character;
  const displaced: Displaced[] = [...exchanged.displaced];
  // Taking one part off may break something else, so we look again until all holds; every turn takes one part off.
  for (;;) {
    const broken = newlyBroken(catalog, character, current, context).find(({ culprits }) => culprits.length > 0);
    const worn = broken?.culprits.at(-1);
    if (broken === undefined || worn === undefined) return { ok: true, character: current, displaced };
    const { code, params, more = [] } = broken;
    const because: Message = { code, params, more };
    const lighter = takeOff(catalog, current, [{ worn, because }]);
    current = lighter.character;
    displaced.push(...lighter.displaced);
  }
}

/**
 * Puts counterparts on in place of what was not made for the new body. They come from where all gear comes from, so with the
 * wardrobe in the bag only those that are carried.
 */
function putCounterpartsOn(
  catalog: Catalog,
  character: Character,
  context: Context,
): Extract<EditResult, { ok: true }> {
  const { parts } = catalog;
  const displaced: Displaced[] = [];
  let current = character;
  for (const [slot, id] of Object.entries(character.loadout)) {
    const part = parts.get(id);
    const other = parts.get(getOwn(part?.counterparts ?? {}, character.body) ?? "");
    if (part === undefined || other === undefined || fitsBody(part, character.body)) continue;
    const result = wear(catalog, current, { wear: other.id, in: slot }, context);
    if (!result.ok) continue;
    current = result.character;
    const because = message("counterpart", { part: id, body: character.body, other: other.id });
    displaced.push(
      ...result.displaced.map((each) => (each.part === id ? { ...each, because, becomes: other.id } : each)),
    );
  }
  return { ok: true, character: current, displaced };
}

/** The verb `body`. */
export const bodyVerb: VerbModule<"body"> = {
  apply: (edit, { catalog, character, context }) => changeBody(catalog, character, edit, context),
  yields: true,
};

/** The verb `grow`. */
export const growVerb: VerbModule<"grow"> = {
  apply: (_edit, { catalog, character, context }) => growUp(catalog, character, context),
  yields: true,
};
