import type { Catalog } from "../catalog/model/catalog.ts";
import type { Changes } from "../character/changes.ts";
import type { Character } from "../character/character.ts";
import { checkLoadout } from "../loadout/check-loadout.ts";
import { type Option, optionsFor } from "../loadout/options-for.ts";
import { slotGroups } from "../loadout/slot-groups.ts";
import type { SolvingContext } from "../loadout/solver.ts";

/** The options of a character that changes, kept until a change can make a difference to them. */
export interface KeptOptions {
  optionsIn(slot: string, character: Character): readonly Option[];
  /** Forgets what a change can make a difference to, and returns of which slots. */
  staleSlots(before: Character, after: Character, changes: Changes): readonly string[];
}

/** Keeps options of slots that a change does not reach, so that an edit costs what it touches. */
export function keptOptions(catalog: Catalog, context: SolvingContext): KeptOptions {
  const lists = new Map<string, readonly Option[]>();
  const isSound = (character: Character) => checkLoadout(catalog, character, context).length === 0;

  const reached = (before: Character, after: Character, { body, facts, slots, bag }: Changes): readonly string[] => {
    const all = [...catalog.slots.keys()];
    if (body || facts.length > 0) return all;
    if (slots.length === 0 && bag.length === 0) return [];
    // Edits that wear a part mend whatever is broken, so a broken loadout reaches every slot.
    if (!isSound(before) || !isSound(after)) return all;
    const groups = slotGroups(catalog, { bagMatters: context.bagPlaces !== undefined });
    const touched = [...slots, ...bag.flatMap((part) => catalog.parts.get(part)?.slots ?? [])];
    const stale = new Set(touched.map((slot) => groups.get(slot)));
    return all.filter((slot) => stale.has(groups.get(slot)));
  };

  return {
    optionsIn(slot, character) {
      const known = lists.get(slot);
      if (known !== undefined) return known;
      const options = optionsFor(catalog, character, slot, context);
      lists.set(slot, options);
      return options;
    },
    staleSlots(before, after, changes) {
      const stale = reached(before, after, changes);
      for (const slot of stale) lists.delete(slot);
      return stale;
    },
  };
}
