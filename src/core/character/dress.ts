import type { Catalog } from "../catalog/catalog.ts";
import type { Character } from "./character.ts";
import type { Displaced, Edit, EditContext, EditResult, LoadoutProblem } from "./edit.ts";
import { paint } from "./paint.ts";
import { characterProblem, refuse, unknownId } from "./refuse.ts";
import { takeOff } from "./take-off.ts";
import { wear } from "./wear.ts";
import { wornParts } from "./worn.ts";

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
  const problems: LoadoutProblem[] = [];
  const steps = [
    ...outfit.parts.map((part) => (before: Character) => wear(catalog, before, { wear: part }, context)),
    ...Object.entries(outfit.colors).map(
      ([channel, ramp]) =>
        (before: Character) =>
          paint(catalog, before, { paint: channel, ramp }),
    ),
  ];
  for (const step of steps) {
    const result = step(current);
    if (!result.ok) {
      problems.push(...result.problems);
      continue;
    }
    current = result.character;
    displaced.push(...result.displaced);
  }
  for (const part of outfit.parts) {
    if (problems.length > 0 || wornParts(catalog, current).some((worn) => worn.part.id === part)) continue;
    problems.push(
      characterProblem(
        "outfit-clash",
        ["loadout"],
        `Outfit "${outfit.id}" cannot be worn whole: its own parts displace "${part}".`,
      ),
    );
  }
  if (problems.length > 0) return refuse(character, ...problems);
  return { ok: true, character: current, displaced };
}
