import type { Catalog, Part } from "../catalog/catalog.ts";
import { valueAt } from "../record.ts";
import { countInBag, takeFromBag } from "./bag.ts";
import type { Character } from "./character.ts";
import { type Conflict, conflictsBetween, sayConflict } from "./conflict.ts";
import type { Edit, EditContext, EditResult, LoadoutProblem } from "./edit.ts";
import { characterProblem, refuse, unknownId } from "./refuse.ts";
import { type Leaving, takeOff } from "./take-off.ts";
import { fitsBody, type Worn, wornParts } from "./worn.ts";
import { wouldBreak } from "./would-break.ts";

/** Puts a part on. What is in its place, and what a displacing rule keeps it from, is taken off; gear goes to the bag. */
export function wear(
  catalog: Catalog,
  character: Character,
  edit: Extract<Edit, { wear: string }>,
  context: EditContext,
): EditResult {
  const part = catalog.parts.get(edit.wear);
  if (part === undefined) return refuse(character, unknownId("part", edit.wear, catalog.parts, ["loadout"]));
  const slot = edit.in ?? firstFreeSlot(part, character);
  const unfit = reasonsAgainst(catalog, character, part, slot, context);
  if (unfit.length > 0) return refuse(character, ...unfit);
  if (valueAt(character.loadout, slot) === part.id) return { ok: true, character, displaced: [] };

  const coming: Worn = { slot, part, issued: false };
  const { leaving, conflicts } = makeRoom(wornParts(catalog, character), coming);
  if (conflicts.length > 0) return refuse(character, ...conflicts.map((conflict) => conflictProblem(conflict, slot)));

  const cleared = takeOff(
    catalog,
    character,
    leaving.filter(({ worn }) => !worn.issued),
  );
  const dressed = putOn(catalog, cleared.character, part, slot);
  const breaks = wouldBreak(catalog, character, dressed, leaving, { wear: part.id, in: slot }, slot);
  if (breaks.length > 0) return refuse(character, ...breaks);
  return { ok: true, character: dressed, displaced: cleared.displaced };
}

function firstFreeSlot(part: Part, character: Character): string {
  const worn = part.slots.find((slot) => valueAt(character.loadout, slot) === part.id);
  const free = part.slots.find((slot) => valueAt(character.loadout, slot) === undefined);
  return worn ?? free ?? part.slots[0] ?? "";
}

function reasonsAgainst(
  catalog: Catalog,
  character: Character,
  part: Part,
  slot: string,
  context: EditContext,
): readonly LoadoutProblem[] {
  const place = ["loadout", slot];
  const problems: LoadoutProblem[] = [];
  if (!part.slots.includes(slot)) {
    const known = catalog.slots.has(slot);
    const where = part.slots.map((each) => `"${each}"`).join(" or ");
    problems.push(
      known
        ? characterProblem("wrong-slot", place, `"${part.id}" does not go in slot "${slot}".`, {
            say: `It goes in ${where}.`,
            edits: [{ wear: part.id }],
          })
        : unknownId("slot", slot, catalog.slots, place),
    );
    return problems;
  }
  if (!fitsBody(part, character.body)) {
    const bodies = [...(part.fits ?? [])].map((body) => `"${body}"`).join(", ");
    problems.push(
      characterProblem("does-not-fit", place, `"${part.id}" was not made for body "${character.body}".`, {
        say: `It fits ${bodies}.`,
      }),
    );
  }
  const bound = context.wardrobe === "bag" && catalog.slots.get(slot)?.kind === "gear";
  const atHand =
    valueAt(character.loadout, slot) === part.id ||
    isIssued(catalog, part, slot) ||
    countInBag(character.bag, part.id) > 0;
  if (bound && !atHand) {
    problems.push(
      characterProblem("not-carried", ["bag", part.id], `There is no "${part.id}" in the bag.`, {
        say: "Put one in the bag first.",
      }),
    );
  }
  return problems;
}

/** What has to go for a part to come, and the conflicts that displacing cannot settle. */
function makeRoom(
  worn: readonly Worn[],
  coming: Worn,
): { leaving: readonly Leaving[]; conflicts: readonly Conflict[] } {
  const taken = new Set([coming.slot, ...coming.part.occupies]);
  const leaving: Leaving[] = [];
  const conflicts: Conflict[] = [];
  for (const each of worn) {
    const overlap = [each.slot, ...each.part.occupies].find((slot) => taken.has(slot));
    if (overlap !== undefined) {
      leaving.push({ worn: each, because: `"${coming.part.id}" takes slot "${overlap}".` });
      continue;
    }
    const between = conflictsBetween(coming, each);
    const first = between[0];
    if (first === undefined) continue;
    if (between.every(({ rule }) => rule.then === "displace") && !each.issued)
      leaving.push({ worn: each, because: sayConflict(first) });
    else conflicts.push(...between);
  }
  return { leaving, conflicts };
}

/** The loadout with the part in its slot. The default of a required slot is issued, so it needs no entry and no gear. */
function putOn(catalog: Catalog, character: Character, part: Part, slot: string): Character {
  if (isIssued(catalog, part, slot)) return character;
  const gear = catalog.slots.get(slot)?.kind === "gear";
  return {
    ...character,
    loadout: { ...character.loadout, [slot]: part.id },
    bag: gear ? takeFromBag(character.bag, part.id) : character.bag,
  };
}

function isIssued(catalog: Catalog, part: Part, slot: string): boolean {
  const place = catalog.slots.get(slot);
  return place?.required === true && place.default === part.id;
}

function conflictProblem(conflict: Conflict, slot: string): LoadoutProblem {
  const other = conflict.other;
  const fixes = other.issued
    ? []
    : [
        {
          say: `Take "${other.part.id}" off first.`,
          edits: [{ remove: other.slot }, { wear: conflict.one.part.id, in: slot }],
        },
      ];
  return characterProblem("never-together", ["loadout", slot], sayConflict(conflict), ...fixes);
}
