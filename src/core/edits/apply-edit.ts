import type { Catalog, CatalogIds } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import type { Edit, EditResult } from "../character/edit.ts";
import { judgedEdit, unjudgedEdit } from "./do-edit.ts";
import { verbs } from "./verbs.ts";

/**
 * Does one edit to a character.
 *
 * The character given is never changed. An edit is done whole or not at all. Gear that has to make room goes to the bag, so
 * nothing a player owns can vanish; what an edit cannot do, and what would break a rule that held before, it refuses, with
 * every reason.
 *
 * @example
 * applyEdit(catalog, wren, { wear: "hood-up" })
 * // → { ok: true, character, displaced: [{ part: "storm-hat", slot: "hat", to: "bag", because: { code: "never-together", … } }] }
 */
export function applyEdit<Ids extends CatalogIds>(
  catalog: Catalog<Ids>,
  character: Character,
  edit: Edit<Ids>,
  context: Context = {},
): EditResult {
  return judgedEdit(verbs, edit, { catalog, character, context });
}

/**
 * Does an edit without judging what it comes to: only what cannot be done at all is refused.
 *
 * For drafts that may break rules on the way; `checkLoadout` returns what is wrong with them.
 */
export function tryEdit<Ids extends CatalogIds>(
  catalog: Catalog<Ids>,
  character: Character,
  edit: Edit<Ids>,
  context: Context = {},
): EditResult {
  return unjudgedEdit(verbs, edit, { catalog, character, context });
}
