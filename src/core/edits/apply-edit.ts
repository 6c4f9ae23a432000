import type { Catalog, CatalogIds } from "../catalog/model/catalog.ts";
import { overfull } from "../character/bag/overfull.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import type { Edit, EditResult, LoadoutProblem } from "../character/edit.ts";
import { aboutWhole, refuse } from "../character/refuse.ts";
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
export function applyEdit<Ids extends CatalogIds>(
  catalog: Catalog<Ids>,
  character: Character,
  edit: Edit<Ids>,
  context: Context = {},
): EditResult {
  return attempt(catalog, character, edit, context, (after) => broken(catalog, character, after, edit, context));
}

/**
 * Does an edit without judging what it comes to: only what cannot be done at all is refused.
 *
 * For drafts that may break rules on the way; `checkLoadout` says what is wrong with them.
 */
export function attemptEdit<Ids extends CatalogIds>(
  catalog: Catalog<Ids>,
  character: Character,
  edit: Edit<Ids>,
  context: Context = {},
): EditResult {
  return attempt(catalog, character, edit, context, () => []);
}

/** @param judge - finds what is wrong with what the edit comes to. */
function attempt(
  catalog: Catalog,
  character: Character,
  edit: Edit,
  context: Context,
  judge: (after: Character) => readonly LoadoutProblem[],
): EditResult {
  const wrong = wrongForm(edit);
  if (wrong !== undefined) return refuse(character, aboutWhole(wrong));
  const result = move(catalog, character, edit, context);
  if (!result.ok || result.character === character) return result;
  const problems = [...judge(result.character), ...overfull(character, result.character, context)];
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
