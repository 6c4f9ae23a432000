import { requireKnown } from "../base/require-known.ts";
import type { Edit } from "../character/edit.ts";
import type { Situation } from "../character/situation.ts";
import { findBroken } from "../rules/find-broken.ts";
import { withLoadout } from "../rules/worn.ts";
import { budgetOf } from "./budget-of.ts";
import { editsTo } from "./edits-to.ts";
import { modelFor } from "./model.ts";
import { NearestLoadout } from "./nearest-loadout.ts";
import { wear } from "./repair-loadout.ts";

/**
 * Finds the fewest edits after which a part is worn in a slot and nothing is broken that is not broken now: what is wrong besides
 * may stay so.
 */
export function editsPastTrouble(situation: Situation, part: string, slot: string): readonly Edit[] | undefined {
  const { catalog, character, context } = situation;
  const body = requireKnown("body", character.body, catalog.bodies);
  const model = modelFor(catalog, body, character, context);
  const waived = withLoadout(catalog, character, context, findBroken);
  const bindOf = (each: string) => (each === slot ? { part } : undefined);
  const search = new NearestLoadout({ ...situation, model, waived, bindOf });
  const budget = budgetOf({});
  const { answer, size } = search.find(budget, undefined);
  if (answer === undefined) return wear(situation, part, slot).edits;
  return editsTo(situation, search.loadoutOf(search.preferred(answer, size, [], budget)));
}
