import { getOrInsert } from "../base/get-or-insert.ts";
import type { Catalog, Part } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import { LoadoutState } from "./loadout-state.ts";

/** A part in the slot where it is worn. */
export interface Worn {
  readonly slot: string;
  readonly part: Part;
  /** Worn because the slot is required and nothing else is in it; not chosen, and not owned. */
  readonly issued: boolean;
}

/**
 * The parts a character wears, in the order of the catalog's slots, with the defaults of required slots put on.
 *
 * Slots and parts the catalog does not know are passed over; `checkLoadout` names them.
 */
export function wornParts(catalog: Catalog, character: Pick<Character, "body" | "loadout" | "facts">): readonly Worn[] {
  return wornIn(loadoutStateOf(catalog, character));
}

/** What is worn in a state. */
export function wornIn(state: LoadoutState): readonly Worn[] {
  return state.slots.flatMap(({ id, number }) => {
    const part = state.worn[number];
    return part === undefined ? [] : [{ slot: id, part, issued: state.issued[number] === 1 }];
  });
}

const states = new WeakMap<Catalog, LoadoutState>();

/** The state of a character. There is one for each catalog, and it is the caller's only until the next call. */
export function loadoutStateOf(
  catalog: Catalog,
  character: Pick<Character, "body" | "loadout" | "facts">,
  context: Context = {},
): LoadoutState {
  const state = getOrInsert(states, catalog, () => new LoadoutState(catalog));
  state.load(character, context);
  return state;
}
