import { getOrInsert } from "../base/get-or-insert.ts";
import type { Catalog } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import { LoadoutState } from "./loadout-state.ts";
import type { Worn } from "./worn-part.ts";

export type { Worn } from "./worn-part.ts";

/**
 * The parts a character wears, in the order of the catalog's slots, with the defaults of required slots put on.
 *
 * Slots and parts the catalog does not know are passed over; `checkLoadout` names them.
 */
export function wornParts(catalog: Catalog, character: Pick<Character, "body" | "loadout" | "facts">): readonly Worn[] {
  return withLoadout(catalog, character, {}, wornIn);
}

/** What is worn in a state. */
export function wornIn(state: LoadoutState): readonly Worn[] {
  const worn: Worn[] = [];
  for (const { id, number } of state.slots) {
    const part = state.worn[number];
    if (part !== undefined) worn.push({ slot: id, part, issued: state.issued[number] === 1 });
  }
  return worn;
}

/** States of catalogs that nobody uses now, since making one costs more than loading it. */
const free = new WeakMap<Catalog, LoadoutState[]>();

/** Judges what a character wears, by a state that is the caller's for as long as the call lasts. */
export function withLoadout<T>(
  catalog: Catalog,
  character: Pick<Character, "body" | "loadout" | "facts">,
  context: Context,
  use: (state: LoadoutState) => T,
): T {
  const states = getOrInsert(free, catalog, () => []);
  const state = states.pop() ?? new LoadoutState(catalog);
  state.load(character, context);
  try {
    return use(state);
  } finally {
    states.push(state);
  }
}
