import type { Catalog } from "../catalog/model/catalog.ts";
import { overfull } from "../character/bag/overfull.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import type { Displaced, Edit, EditResult } from "../character/edit.ts";
import { refuse } from "../character/refuse.ts";
import { wouldBreak } from "../rules/newly-broken.ts";
import { answerFact } from "./verbs/answer-fact.ts";
import { changeBody, growUp } from "./verbs/change-body.ts";
import { cycle } from "./verbs/cycle.ts";
import { dress } from "./verbs/dress.ts";
import { paint } from "./verbs/paint.ts";
import { remove } from "./verbs/remove.ts";
import { rename } from "./verbs/rename.ts";
import { resemble, takePreset } from "./verbs/resemble.ts";
import { mergeStacks, splitStack } from "./verbs/stack-edits.ts";
import { slotFor, wear } from "./verbs/wear.ts";

/**
 * Does one edit to a character.
 *
 * The character given is never changed. An edit is done whole or not at all. Gear that has to make room goes to the bag, so
 * nothing a player owns can vanish; what an edit cannot do, and what would break a rule that held before, it refuses, with
 * every reason.
 *
 * @example
 * applyEdit(catalog, wren, { wear: "hood-up" })
 * // → { ok: true, character, displaced: [{ part: "storm-hat", slot: "hat", to: "bag", because: "…" }] }
 */
export function applyEdit(catalog: Catalog, character: Character, edit: Edit, context: Context = {}): EditResult {
  const result = move(catalog, character, edit, context);
  if (!result.ok || result.character === character) return result;
  const problems = [
    ...broken(catalog, character, result.character, edit, context),
    ...overfull(character, result.character, context),
  ];
  return problems.length === 0 ? result : refuse(character, ...problems);
}

/**
 * Does an edit without judging what it comes to: only what cannot be done at all is refused.
 *
 * For drafts that may break rules on the way; `checkLoadout` says what is wrong with them.
 */
export function attemptEdit(catalog: Catalog, character: Character, edit: Edit, context: Context = {}): EditResult {
  const result = move(catalog, character, edit, context);
  if (!result.ok || result.character === character) return result;
  const problems = overfull(character, result.character, context);
  return problems.length === 0 ? result : refuse(character, ...problems);
}

function move(catalog: Catalog, character: Character, edit: Edit, context: Context): EditResult {
  if ("wear" in edit) return wear(catalog, character, edit, context);
  if ("remove" in edit) return remove(catalog, character, edit);
  if ("cycle" in edit)
    return cycle(catalog, character, edit, (choice) => applyEdit(catalog, character, choice, context));
  if ("paint" in edit) return paint(catalog, character, edit);
  if ("dress" in edit) return dress(catalog, character, edit, context);
  if ("body" in edit) return changeBody(catalog, character, edit, context);
  if ("grow" in edit) return growUp(catalog, character, context);
  if ("rename" in edit) return rename(catalog, character, edit, context);
  if ("fact" in edit) return answerFact(character, edit);
  if ("preset" in edit) return takePreset(catalog, character, edit, context);
  if ("resemble" in edit) return resemble(catalog, character, edit, context);
  if ("split" in edit) return splitStack(character, edit);
  if ("merge" in edit) return mergeStacks(catalog, character, edit);
  return together(catalog, character, edit.together, context);
}

function together(catalog: Catalog, character: Character, edits: readonly Edit[], context: Context): EditResult {
  let current = character;
  const displaced: Displaced[] = [];
  // A list of what is left to do, since edits that hold edits may be nested deeper than calls may.
  const open = [...edits].reverse();
  for (let edit = open.pop(); edit !== undefined; edit = open.pop()) {
    if ("together" in edit) {
      for (const each of edit.together.toReversed()) open.push(each);
      continue;
    }
    const result = move(catalog, current, edit, context);
    if (!result.ok) return refuse(character, ...result.problems);
    current = result.character;
    for (const each of result.displaced) displaced.push(each);
  }
  return { ok: true, character: current, displaced };
}

function broken(catalog: Catalog, before: Character, after: Character, edit: Edit, context: Context) {
  // A body is not refused for what is worn: what it cannot bear has been taken off.
  if ("body" in edit || "grow" in edit) return [];
  if (before.loadout === after.loadout && before.facts === after.facts) return [];
  return wouldBreak(catalog, before, after, context, ...namedSlot(catalog, before, edit));
}

/** The edit, with the slot it is about, where it is about one. */
function namedSlot(catalog: Catalog, before: Character, edit: Edit): readonly [Edit, string?] {
  if ("remove" in edit) return [edit, edit.remove];
  const part = "wear" in edit ? catalog.parts.get(edit.wear) : undefined;
  if (part === undefined || !("wear" in edit)) return [edit];
  const slot = slotFor(part, before, edit);
  return [{ wear: part.id, in: slot }, slot];
}
