import { getOwn } from "../base/record.ts";
import { requireKnown } from "../base/require-known.ts";
import type { Catalog } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import type { Edit } from "../character/edit.ts";
import { isOffered } from "../edits/verbs/paint.ts";
import { findBroken } from "../rules/find-broken.ts";
import { withLoadout } from "../rules/worn.ts";
import { editsTo } from "./edits-to.ts";
import { NearestLoadout } from "./nearest-loadout.ts";
import { budgetOf, type SearchLimits } from "./search-limits.ts";
import { modelFor } from "./solve/model.ts";

/** The edits that make a loadout valid. */
export interface Repair {
  /** In the order to apply them; empty when nothing is wrong; `undefined` when there is no way, or when none was found. */
  readonly edits: readonly Edit[] | undefined;
  /** How many slots change what is chosen in them. The default of a required slot is no choice. */
  readonly changes: number;
  /** It is proved that no answer changes fewer slots than this. */
  readonly least: number;
  /** Whether it is proved that no smaller answer exists, or that there is none at all; `false` when the budget ran out. */
  readonly complete: boolean;
}

export interface RepairOptions extends Context, SearchLimits {
  /** Slots in the order in which the player chose what is in them, the last choice last: where answers tie, the last are kept. */
  readonly recent?: readonly string[];
  /** Slots that must stay as they are. */
  readonly keep?: readonly string[];
  /** Is called when a smaller answer is known, or a higher bound. */
  readonly report?: (state: { readonly changes: number | undefined; readonly least: number }) => void;
}

/**
 * Finds the fewest edits that make a character's loadout valid.
 *
 * Edits are tried in order of size, so no smaller answer exists: size is the number of slots that change. Among smallest
 * answers, those that keep what the player chose last come first, then those that leave appearance alone, then those that keep
 * what is worn. Parts the player does not own are never proposed, and with the wardrobe `"bag"` only gear that is carried is.
 * A color that its channel does not offer is painted in the default.
 *
 * @throws MantleError `unknown-body`: without a body nothing can be judged.
 * @example
 * repairLoadout(catalog, wren, { holdings })
 * // → { edits: [{ remove: "hat" }], changes: 1, least: 1, complete: true }
 */
export function repairLoadout(catalog: Catalog, character: Character, options: RepairOptions = {}): Repair {
  const kept = new Set(options.keep ?? []);
  return repair(catalog, character, options, (slot) => (kept.has(slot) ? "keep" : undefined));
}

/**
 * Fills what is missing around the choices a character has, with the fewest parts, and takes nothing off.
 *
 * @example
 * completeLoadout(catalog, { ...wren, loadout: { chain: "watch-chain" } })
 * // → { edits: [{ wear: "waistcoat", in: "vest" }], changes: 1, least: 1, complete: true }
 */
export function completeLoadout(catalog: Catalog, character: Character, options: RepairOptions = {}): Repair {
  const kept = new Set(options.keep ?? []);
  const isChosen = (slot: string) => catalog.parts.has(getOwn(character.loadout, slot) ?? "");
  return repair(catalog, character, options, (slot) => (kept.has(slot) || isChosen(slot) ? "keep" : undefined));
}

/**
 * Finds the fewest edits after which a part is worn in a slot and the whole loadout is valid.
 *
 * @returns as `repairLoadout` does; the edits put the part on, too.
 */
export function waysToWear(
  catalog: Catalog,
  character: Character,
  part: string,
  slot: string,
  options: RepairOptions = {},
): Repair {
  return repair(catalog, character, options, (each) => (each === slot ? { part } : undefined));
}

/**
 * Finds the fewest edits after which a part is worn in a slot and nothing is broken that is not broken now: what is wrong besides
 * may stay so.
 */
export function waysPastTrouble(
  catalog: Catalog,
  character: Character,
  part: string,
  slot: string,
  context: Context = {},
): readonly Edit[] | undefined {
  const body = requireKnown("body", character.body, catalog.bodies);
  const model = modelFor(catalog, body, character, context);
  const waived = withLoadout(catalog, character, context, findBroken);
  const bindOf = (each: string) => (each === slot ? { part } : undefined);
  const search = new NearestLoadout({ catalog, character, context, model, waived, bindOf });
  const budget = budgetOf({});
  const { answer, size } = search.find(budget, undefined);
  if (answer === undefined) return waysToWear(catalog, character, part, slot, context).edits;
  return editsTo(catalog, character, search.loadoutOf(search.preferred(answer, size, [], budget)), context);
}

/** What a slot is bound to: what it holds now, or a part. */
type Bind = "keep" | { readonly part: string } | undefined;

function repair(
  catalog: Catalog,
  character: Character,
  options: RepairOptions,
  bindOf: (slot: string) => Bind,
): Repair {
  const body = requireKnown("body", character.body, catalog.bodies);
  const model = modelFor(catalog, body, character, options);
  const budget = budgetOf(options);
  const nearest = new NearestLoadout({ catalog, character, context: options, model, bindOf });
  const { answer, size, least, complete } = nearest.find(budget, options.report);
  if (answer === undefined) return { edits: undefined, changes: 0, least: complete ? 0 : least, complete };
  const target = nearest.loadoutOf(nearest.preferred(answer, size, options.recent ?? [], budget));
  return {
    edits: [...editsTo(catalog, character, target, options), ...wrongPaints(catalog, character)],
    changes: size,
    least,
    complete,
  };
}

/** Edits that paint what no channel offers in the default. */
function wrongPaints(catalog: Catalog, character: Character): readonly Edit[] {
  return Object.entries(character.colors).flatMap(([id, ramp]) => {
    const channel = catalog.channels.get(id);
    return channel === undefined || isOffered(channel, ramp) ? [] : [{ paint: id, ramp: channel.default }];
  });
}
