import { getOwn } from "../base/record.ts";
import { requireKnown } from "../base/require-known.ts";
import type { Catalog } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import type { Edit } from "../character/edit.ts";
import type { Situation } from "../character/situation.ts";
import type { Repair, RepairLimits } from "../loadout/solver.ts";
import { isOffered } from "../rules/is-offered.ts";
import { budgetOf } from "./budget-of.ts";
import { editsTo } from "./edits-to.ts";
import { modelFor } from "./model.ts";
import { NearestLoadout } from "./nearest-loadout.ts";

/** What the game knows, what a repair keeps, and how long it may take. */
export interface RepairOptions extends Context, RepairLimits {}

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
 * // → { edits: [{ remove: "neck" }], changes: 1, lowerBound: 1, isProven: true }
 */
export function repairLoadout(catalog: Catalog, character: Character, options: RepairOptions = {}): Repair {
  return repair({ catalog, character, context: options }, options);
}

/**
 * Fills what is missing around the choices a character has, with the fewest parts, and takes nothing off.
 *
 * @example
 * completeLoadout(catalog, { ...wren, loadout: { chain: "watch-chain" } })
 * // → { edits: [{ wear: "waistcoat", in: "vest" }], changes: 1, lowerBound: 1, isProven: true }
 */
export function completeLoadout(catalog: Catalog, character: Character, options: RepairOptions = {}): Repair {
  return complete({ catalog, character, context: options }, options);
}

/**
 * Finds the fewest edits after which a part is worn in a slot and the whole loadout is valid.
 *
 * @returns as `repairLoadout` does; the edits put the part on, too.
 */
export function editsToWear(
  catalog: Catalog,
  character: Character,
  part: string,
  slot: string,
  options: RepairOptions = {},
): Repair {
  return wear({ catalog, character, context: options }, part, slot, options);
}

/** What a slot is bound to: what it holds now, or a part. */
type Bind = "keep" | { readonly part: string } | undefined;

/** As `repairLoadout`. */
export function repair(situation: Situation, limits: RepairLimits = {}): Repair {
  const kept = new Set(limits.keep ?? []);
  return nearestTo(situation, limits, (slot) => (kept.has(slot) ? "keep" : undefined));
}

/** As `completeLoadout`. */
export function complete(situation: Situation, limits: RepairLimits = {}): Repair {
  const { catalog, character } = situation;
  const kept = new Set(limits.keep ?? []);
  const isChosen = (slot: string) => catalog.parts.has(getOwn(character.loadout, slot) ?? "");
  return nearestTo(situation, limits, (slot) => (kept.has(slot) || isChosen(slot) ? "keep" : undefined));
}

/** As `editsToWear`. */
export function wear(situation: Situation, part: string, slot: string, limits: RepairLimits = {}): Repair {
  return nearestTo(situation, limits, (each) => (each === slot ? { part } : undefined));
}

function nearestTo(situation: Situation, limits: RepairLimits, bindOf: (slot: string) => Bind): Repair {
  const { catalog, character, context } = situation;
  const body = requireKnown("body", character.body, catalog.bodies);
  const model = modelFor(catalog, body, character, context);
  const budget = budgetOf(limits);
  const nearest = new NearestLoadout({ ...situation, model, bindOf });
  const { answer, size, least, complete } = nearest.find(budget, limits.report);
  if (answer === undefined)
    return { edits: undefined, changes: 0, lowerBound: complete ? 0 : least, isProven: complete };
  const target = nearest.loadoutOf(nearest.preferred(answer, size, limits.recent ?? [], budget));
  return {
    edits: [...editsTo(situation, target), ...wrongPaints(catalog, character)],
    changes: size,
    lowerBound: least,
    isProven: complete,
  };
}

/** Edits that paint what no channel offers in the default. */
function wrongPaints(catalog: Catalog, character: Character): readonly Edit[] {
  return Object.entries(character.colors).flatMap(([id, ramp]) => {
    const channel = catalog.channels.get(id);
    return channel === undefined || isOffered(channel, ramp) ? [] : [{ paint: id, ramp: channel.default }];
  });
}
