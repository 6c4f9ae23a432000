import type { Problem } from "../base/problem.ts";
import type { Catalog } from "../catalog/model/catalog.ts";
import { overfull } from "../character/bag/overfull.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import type { Edit, EditResult, LoadoutProblem } from "../character/edit.ts";
import { refuse } from "../character/refuse.ts";
import { wouldBreak } from "../rules/newly-broken.ts";
import { wrongForm } from "./read-edit.ts";
import { verbOf } from "./verbs.ts";

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
  const wrong = wrongForm(edit);
  if (wrong !== undefined) return refuse(character, asLoadoutProblem(wrong));
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
  const wrong = wrongForm(edit);
  if (wrong !== undefined) return refuse(character, asLoadoutProblem(wrong));
  const result = move(catalog, character, edit, context);
  if (!result.ok || result.character === character) return result;
  const problems = overfull(character, result.character, context);
  return problems.length === 0 ? result : refuse(character, ...problems);
}

function move(catalog: Catalog, character: Character, edit: Edit, context: Context): EditResult {
  return verbOf(edit).apply(edit, {
    catalog,
    character,
    context,
    attempt: (current, another) => move(catalog, current, another, context),
    judged: (choice) => applyEdit(catalog, character, choice, context),
  });
}

function broken(catalog: Catalog, before: Character, after: Character, edit: Edit, context: Context) {
  const { yields, aboutSlot } = verbOf(edit);
  if (yields) return [];
  if (before.loadout === after.loadout && before.facts === after.facts) return [];
  const [again, slot] = aboutSlot?.(edit, { catalog, character: before }) ?? [edit];
  return wouldBreak(catalog, before, after, context, again, slot);
}

/** What is wrong with the form of an edit, as any other finding about a character. */
function asLoadoutProblem(problem: Problem): LoadoutProblem {
  return { ...problem, subject: { kind: "character", id: "" }, chain: [] };
}
