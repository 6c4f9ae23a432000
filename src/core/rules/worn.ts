import { recall } from "../base/recall.ts";
import type { Catalog, Part } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import { Tally } from "./tally.ts";

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
  return wornIn(tallyOf(catalog, character));
}

/** What is worn in a tally. */
export function wornIn(tally: Tally): readonly Worn[] {
  return tally.slots.flatMap(({ id, number }) => {
    const part = tally.worn[number];
    return part === undefined ? [] : [{ slot: id, part, issued: tally.issued[number] === 1 }];
  });
}

const tallies = new WeakMap<Catalog, Tally>();

/** The tally of a character. There is one for each catalog, and it is the caller's only until the next call. */
export function tallyOf(
  catalog: Catalog,
  character: Pick<Character, "body" | "loadout" | "facts">,
  context: Context = {},
): Tally {
  const tally = recall(tallies, catalog, () => new Tally(catalog));
  tally.load(character, context);
  return tally;
}
