import type { Catalog, Part } from "../catalog/catalog.ts";
import { applyEdit } from "../character/apply-edit.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import type { Displaced, LoadoutProblem } from "../character/edit.ts";
import { type Stats, statsOf } from "../character/stats.ts";
import { wornParts } from "../character/worn.ts";
import { valueAt } from "../record.ts";

/** What would happen if a part were put on now. */
export type Option =
  | { readonly part: Part; readonly state: "worn" }
  | { readonly part: Part; readonly state: "ready"; readonly stats: readonly StatChange[] }
  | {
      readonly part: Part;
      readonly state: "displaces";
      readonly stats: readonly StatChange[];
      readonly displaced: readonly Displaced[];
    }
  | { readonly part: Part; readonly state: "blocked"; readonly problems: readonly LoadoutProblem[] };

/** A stat that would be another. */
export interface StatChange {
  readonly stat: string;
  readonly before: number;
  readonly after: number;
}

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
  context: Context = {},
): readonly Option[] {
  const parts = catalog.slots.get(slot)?.parts ?? [];
  const current = wornParts(catalog, character).find((worn) => worn.slot === slot)?.part;
  const before = statsOf(catalog, character, context);
  return parts.map((part): Option => {
    if (part === current) return { part, state: "worn" };
    const result = applyEdit(catalog, character, { wear: part.id, in: slot }, context);
    if (!result.ok) return { part, state: "blocked", problems: result.problems };
    const displaced = result.displaced.filter((each) => each.slot !== slot);
    const stats = changedStats(before, statsOf(catalog, result.character, context));
    return displaced.length === 0 ? { part, state: "ready", stats } : { part, state: "displaces", stats, displaced };
  });
}

function changedStats(before: Stats, after: Stats): readonly StatChange[] {
  return [...new Set([...Object.keys(before), ...Object.keys(after)])]
    .map((stat) => ({ stat, before: valueAt(before, stat) ?? 0, after: valueAt(after, stat) ?? 0 }))
    .filter((change) => change.before !== change.after);
}
