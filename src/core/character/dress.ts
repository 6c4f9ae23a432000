import type { Catalog, Outfit } from "../catalog/catalog.ts";
import type { Character } from "./character.ts";
import type { Displaced, Edit, EditContext, EditResult, LoadoutProblem } from "./edit.ts";
import { paint } from "./paint.ts";
import { characterProblem, refuse, unknownId } from "./refuse.ts";
import { takeOff } from "./take-off.ts";
import { wear } from "./wear.ts";
import { wornParts } from "./worn.ts";
import { wouldBreak } from "./would-break.ts";

type Step = Extract<Edit, { wear: string }> | Extract<Edit, { paint: string }>;

/** Puts a whole outfit on. Either all of it is put on, or the edit is refused and nothing changes. */
export function dress(
  catalog: Catalog,
  character: Character,
  edit: Extract<Edit, { dress: string }>,
  context: EditContext,
): EditResult {
  const outfit = catalog.outfits.get(edit.dress);
  if (outfit === undefined) return refuse(character, unknownId("outfit", edit.dress, catalog.outfits, ["loadout"]));
  const named = new Set(outfit.parts);
  const others = wornParts(catalog, character).filter(
    ({ slot, part, issued }) =>
      outfit.others === "clear" && !issued && !named.has(part.id) && catalog.slots.get(slot)?.kind === "gear",
  );
  const cleared = takeOff(
    catalog,
    character,
    others.map((worn) => ({ worn, because: `Outfit "${outfit.id}" is worn without it.` })),
  );
  let current = cleared.character;
  const displaced: Displaced[] = [...cleared.displaced];
  let problems: readonly LoadoutProblem[] = [];
  let pending: readonly Step[] = [
    ...outfit.parts.map((part) => ({ wear: part })),
    ...Object.entries(outfit.colors).map(([channel, ramp]) => ({ paint: channel, ramp })),
  ];
  // A part may need another that comes later in the list, so what is refused is tried again until nothing more goes on.
  for (let before = pending.length + 1; pending.length < before; ) {
    before = pending.length;
    const refused: Step[] = [];
    problems = [];
    for (const each of pending) {
      const result = "paint" in each ? paint(catalog, current, each) : wear(catalog, current, each, context);
      if (result.ok) {
        current = result.character;
        displaced.push(...result.displaced);
      } else {
        refused.push(each);
        problems = [...problems, ...result.problems];
      }
    }
    pending = refused;
  }
  const unworn = problems.length > 0 ? problems : notWorn(catalog, outfit, current);
  const broken = unworn.length > 0 ? unworn : wouldBreak(catalog, character, current, [], edit);
  if (broken.length > 0) return refuse(character, ...broken);
  return { ok: true, character: current, displaced };
}

function notWorn(catalog: Catalog, outfit: Outfit, character: Character): readonly LoadoutProblem[] {
  const worn = new Set(wornParts(catalog, character).map(({ part }) => part.id));
  return outfit.parts
    .filter((part) => !worn.has(part))
    .map((part) =>
      characterProblem(
        "outfit-clash",
        ["loadout"],
        `Outfit "${outfit.id}" cannot be worn whole: "${part}" finds no place beside the rest.`,
      ),
    );
}
