import type { Catalog } from "../catalog/catalog.ts";
import { changeBody } from "./change-body.ts";
import type { Character } from "./character.ts";
import { cycle } from "./cycle.ts";
import { dress } from "./dress.ts";
import type { Edit, EditContext, EditResult } from "./edit.ts";
import { paint } from "./paint.ts";
import { remove } from "./remove.ts";
import { rename } from "./rename.ts";
import { wear } from "./wear.ts";

/**
 * Does one edit to a character.
 *
 * The character given is never changed. An edit is done whole or not at all. Gear that has to make room goes to the bag, so
 * nothing a player owns can vanish; what an edit cannot do it refuses, with every reason.
 *
 * @example
 * applyEdit(catalog, wren, { wear: "hood-up" })
 * // → { ok: true, character, displaced: [{ part: "storm-hat", slot: "hat", to: "bag", because: "…" }] }
 */
export function applyEdit(catalog: Catalog, character: Character, edit: Edit, context: EditContext = {}): EditResult {
  if ("wear" in edit) return wear(catalog, character, edit, context);
  if ("remove" in edit) return remove(catalog, character, edit);
  if ("cycle" in edit) return cycle(catalog, character, edit, context);
  if ("paint" in edit) return paint(catalog, character, edit);
  if ("dress" in edit) return dress(catalog, character, edit, context);
  if ("body" in edit) return changeBody(catalog, character, edit);
  return rename(character, edit);
}
