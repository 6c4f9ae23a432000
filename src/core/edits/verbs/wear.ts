import { authored, message } from "../../base/message.ts";
import { getOwn } from "../../base/record.ts";
import type { Catalog, NeverRule, Part, Pattern } from "../../catalog/model/catalog.ts";
import { isAvailable, withheld } from "../../character/bag/access.ts";
import { addToBag, countInBag, takeFromBag } from "../../character/bag/bag.ts";
import type { Character } from "../../character/character.ts";
import type { Context } from "../../character/context.ts";
import type { EditResult, Edits, LoadoutProblem } from "../../character/edit.ts";
import { fixBy, fixWith, loadoutProblem, refuse, unknownId } from "../../character/refuse.ts";
import { matches } from "../../rules/condition.ts";
import { fitsBody } from "../../rules/fits-body.ts";
import { type Worn, wornParts } from "../../rules/worn.ts";
import { reveal } from "../concealed-gear.ts";
import { type Leaving, takeOff } from "../take-off.ts";
import type { VerbModule } from "../verb.ts";

/**
 * Puts a part on. What is in its place, and what a displacing rule keeps it from, is taken off; gear goes to the bag.
 *
 * Rules that refuse, needs and totals are not judged here.
 */
export function wear(catalog: Catalog, character: Character, edit: Edits["wear"], context: Context): EditResult {
  const part = catalog.parts.get(edit.wear);
  if (part === undefined) return refuse(character, unknownId(catalog, "part", edit.wear, ["loadout"]));
  const slot = slotFor(part, character, edit);
  const unfit = reasonsAgainst(catalog, character, part, slot, context);
  if (unfit.length > 0) return refuse(character, ...unfit);
  // What is worn already is at least seen from now on.
  if (getOwn(character.loadout, slot) === part.id)
    return { ok: true, character: reveal(character, slot), displaced: [] };

  const leaving = makeRoom(catalog, wornParts(catalog, character), { slot, part, issued: false });
  const cleared = takeOff(catalog, character, leaving);
  return { ok: true, character: putOn(catalog, cleared.character, part, slot), displaced: cleared.displaced };
}

/** The slot a part would go in: the one named, or the one where it is worn, or the first of its slots that is free, or the first. */
export function slotFor(part: Part, character: Character, edit: { readonly in?: string }): string {
  if (edit.in !== undefined) return edit.in;
  const worn = part.slots.find((slot) => getOwn(character.loadout, slot) === part.id);
  const free = part.slots.find((slot) => getOwn(character.loadout, slot) === undefined);
  return worn ?? free ?? part.slots[0] ?? "";
}

/** Whether the part is what the slot shows by itself when nothing is worn there. */
export function isIssued(catalog: Catalog, part: Part, slot: string): boolean {
  const place = catalog.slots.get(slot);
  return place?.required === true && place.default === part.id;
}

/** Why a part cannot be put on at all, whatever else is worn: its place, its fit, who owns it, what is carried. */
export function reasonsAgainst(
  catalog: Catalog,
  character: Character,
  part: Part,
  slot: string,
  context: Context,
): readonly LoadoutProblem[] {
  const at = ["loadout", slot];
  const subject = { kind: "part", id: part.id } as const;
  if (!catalog.slots.has(slot)) return [unknownId(catalog, "slot", slot, at)];
  if (!part.slots.includes(slot)) {
    const fix = fixWith("goes-in", { slots: part.slots }, [{ wear: part.id }]);
    return [loadoutProblem("wrong-slot", { subject, at, params: { part: part.id, slot }, fixes: [fix] })];
  }
  const problems: LoadoutProblem[] = [];
  if (!fitsBody(part, character.body)) {
    problems.push(
      loadoutProblem("does-not-fit", {
        subject,
        at,
        params: { part: part.id, body: character.body },
        chain: [{ kind: "body", id: character.body }],
        fixes: [fixBy("fits-bodies", { bodies: [...(part.fits ?? [])] })],
      }),
    );
  }
  if (isAtHand(catalog, character, part, slot)) return problems;
  if (!isAvailable(part, character))
    problems.push(loadoutProblem("no-longer-available", { subject, at, params: { part: part.id } }));
  problems.push(...withheld(part, context.holdings, at));
  if (
    context.wardrobe === "bag" &&
    catalog.slots.get(slot)?.kind === "gear" &&
    countInBag(character.bag, part.id) === 0
  ) {
    problems.push(
      loadoutProblem("not-carried", {
        subject,
        at: ["bag", part.id],
        params: { part: part.id },
        chain: [{ kind: "carried", part: part.id, count: 0 }],
        fixes: [fixBy("put-in-bag")],
      }),
    );
  }
  return problems;
}

/** Whether the part is worn there already, or comes by itself. */
function isAtHand(catalog: Catalog, character: Character, part: Part, slot: string): boolean {
  return getOwn(character.loadout, slot) === part.id || isIssued(catalog, part, slot);
}

/** What has to go for a part to come: what takes the same slots, and what only displacing rules keep it from. */
function makeRoom(catalog: Catalog, worn: readonly Worn[], coming: Worn): readonly Leaving[] {
  const taken = new Set([coming.slot, ...coming.part.occupies]);
  const rules = neverRules(catalog, coming);
  return worn.flatMap((each): readonly Leaving[] => {
    if (each.issued) return [];
    const overlap = [each.slot, ...each.part.occupies].find((slot) => taken.has(slot));
    if (overlap !== undefined) {
      const because = message("slot-is-taken", { part: coming.part.id, slot: overlap });
      return [{ worn: each, because }];
    }
    const keeping = rules.filter(({ patterns }) => excludes(patterns, coming, each));
    if (keeping.length === 0 || keeping.some(({ then }) => then === "refuse")) return [];
    const never = message("never-together", { part: coming.part.id, other: each.part.id });
    const because = { ...never, more: authored(keeping[0]?.message) };
    return [{ worn: each, because }];
  });
}

/** The rules that can keep a part from others. */
function neverRules(catalog: Catalog, { slot, part }: Worn): readonly NeverRule[] {
  const { exclusive, slotMarks } = catalog.compiled;
  const own = slotMarks[catalog.slots.get(slot)?.number ?? -1] ?? -1;
  const marks = own < 0 ? part.compiled.marks : [...part.compiled.marks, own];
  const numbers = new Set(marks.flatMap((mark) => exclusive[mark] ?? []));
  const rules = [...numbers].sort((one, other) => one - other).map((number) => catalog.rules[number]);
  return rules.filter((rule) => rule?.kind === "never");
}

function excludes(patterns: readonly Pattern[], one: Worn, other: Worn): boolean {
  return patterns.some(
    (pattern, number) =>
      matches(pattern, one) && patterns.some((another, at) => at !== number && matches(another, other)),
  );
}

/**
 * The character with the part in its slot. The default of a required slot is issued, so it needs no entry and no gear. What the
 * catalog does not know was in nobody's way; it goes to the bag, so that it is not lost.
 */
function putOn(catalog: Catalog, character: Character, part: Part, slot: string): Character {
  if (isIssued(catalog, part, slot)) return character;
  const gear = catalog.slots.get(slot)?.kind === "gear";
  const unknown = getOwn(character.loadout, slot);
  const bag = unknown === undefined ? character.bag : addToBag(catalog, character.bag, unknown);
  return {
    ...character,
    loadout: { ...character.loadout, [slot]: part.id },
    bag: gear ? takeFromBag(bag, part.id) : bag,
  };
}

/** The verb `wear`. */
export const wearVerb: VerbModule<"wear"> = {
  apply: (edit, { catalog, character, context }) => wear(catalog, character, edit, context),
  aboutSlot(edit, { catalog, character }) {
    const part = catalog.parts.get(edit.wear);
    if (part === undefined) return undefined;
    const slot = slotFor(part, character, edit);
    return [{ wear: part.id, in: slot }, slot];
  },
};
