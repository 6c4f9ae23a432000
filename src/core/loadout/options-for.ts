import type { Catalog, Part } from "../catalog/catalog.ts";
import { applyEdit } from "../character/apply-edit.ts";
import type { Character } from "../character/character.ts";
import type { Displaced, EditContext, LoadoutProblem } from "../character/edit.ts";
import { wornParts } from "../character/worn.ts";

/** What would happen if a part were put on now. */
export type Option =
  | { readonly part: Part; readonly state: "worn" | "ready" }
  | { readonly part: Part; readonly state: "displaces"; readonly displaced: readonly Displaced[] }
  | { readonly part: Part; readonly state: "blocked"; readonly problems: readonly LoadoutProblem[] };

/**
 * Says of every part of a slot whether it can be worn now and, if not, why.
 *
 * A part that only takes the place of what is in its own slot is `ready`; one that sends anything else away `displaces`.
 * Verdicts are those of doing the edit: each is tried on the character.
 *
 * @returns one option for each part of the slot, in the order of the catalog; empty for a slot the catalog does not have.
 */
export function optionsFor(
  catalog: Catalog,
  character: Character,
  slot: string,
  context: EditContext = {},
): readonly Option[] {
  const parts = catalog.slots.get(slot)?.parts ?? [];
  const current = wornParts(catalog, character).find((worn) => worn.slot === slot)?.part;
  return parts.map((part): Option => {
    if (part === current) return { part, state: "worn" };
    const result = applyEdit(catalog, character, { wear: part.id, in: slot }, context);
    if (!result.ok) return { part, state: "blocked", problems: result.problems };
    const displaced = result.displaced.filter((each) => each.slot !== slot);
    return displaced.length === 0 ? { part, state: "ready" } : { part, state: "displaces", displaced };
  });
}
