import { message } from "../../base/message.ts";
import type { Catalog, Outfit } from "../../catalog/model/catalog.ts";
import type { Character } from "../../character/character.ts";
import type { Context } from "../../character/context.ts";
import type { Displaced, EditResult, Edits, LoadoutProblem } from "../../character/edit.ts";
import { loadoutProblem, refuse, unknownId } from "../../character/refuse.ts";
import { wornParts } from "../../rules/worn.ts";
import { conceal } from "../concealed-gear.ts";
import { takeOff } from "../take-off.ts";
import type { VerbModule } from "../verb.ts";
import { paint } from "./paint.ts";
import { wear } from "./wear.ts";

/** Puts a whole outfit on. Either all of it is put on, or the edit is refused and nothing changes. */
export function dress(catalog: Catalog, character: Character, edit: Edits["dress"], context: Context): EditResult {
  const outfit = catalog.outfits.get(edit.dress);
  if (outfit === undefined) return refuse(character, unknownId(catalog, "outfit", edit.dress, ["loadout"]));
  const named = new Set(outfit.parts);
  const others = wornParts(catalog, character).filter(
    ({ slot, part, issued }) =>
      outfit.others === "clear" && !issued && !named.has(part.id) && catalog.slots.get(slot)?.kind === "gear",
  );
  const because = message("outfit-without", { outfit: outfit.id });
  const cleared = takeOff(
    catalog,
    character,
    others.map((worn) => ({ worn, because })),
  );
  let current = cleared.character;
  const displaced: Displaced[] = [...cleared.displaced];
  const problems: LoadoutProblem[] = [];
  const take = (result: EditResult) => {
    if (!result.ok) problems.push(...result.problems);
    else displaced.push(...result.displaced);
    current = result.character;
  };
  for (const part of outfit.parts) take(wear(catalog, current, { wear: part }, context));
  for (const [channel, ramp] of Object.entries(outfit.colors)) take(paint(catalog, current, { paint: channel, ramp }));
  if (problems.length === 0) problems.push(...notWorn(catalog, outfit, current));
  if (problems.length > 0) return refuse(character, ...problems);
  return { ok: true, character: conceal(catalog, current, outfit), displaced };
}

function notWorn(catalog: Catalog, outfit: Outfit, character: Character): readonly LoadoutProblem[] {
  const worn = new Set(wornParts(catalog, character).map(({ part }) => part.id));
  return outfit.parts
    .filter((part) => !worn.has(part))
    .map((part) =>
      loadoutProblem("outfit-clash", {
        subject: { kind: "outfit", id: outfit.id },
        at: ["loadout"],
        params: { outfit: outfit.id, part },
      }),
    );
}

/** The verb `dress`. */
export const dressVerb: VerbModule<"dress"> = {
  apply: (edit, { catalog, character, context }) => dress(catalog, character, edit, context),
};
