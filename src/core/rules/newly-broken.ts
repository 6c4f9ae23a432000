import type { Fix } from "../base/problem.ts";
import { getOwn } from "../base/record.ts";
import type { Catalog } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import type { Edit, LoadoutProblem } from "../character/edit.ts";
import { fixWith, problemAbout } from "../character/refuse.ts";
import { explainAll } from "./explain-broken.ts";
import type { Explanation } from "./explanation.ts";
import { brokenKey, findBroken } from "./find-broken.ts";
import type { LoadoutState } from "./loadout-state.ts";
import { withLoadout } from "./worn.ts";

/** What holds before a change and not after: needs, rules, required slots, the place and the fit of parts. */
export function newlyBroken(
  catalog: Catalog,
  before: Character,
  after: Character,
  context: Context,
): readonly Explanation[] {
  const earlier = brokenKeys(catalog, before, context);
  return withLoadout(catalog, after, context, (state) => {
    const later = findBroken(state).filter((broken) => !earlier.has(brokenKey(broken, state)));
    return explainAll(state, after, context, later);
  });
}

function brokenKeys(catalog: Catalog, character: Character, context: Context): ReadonlySet<string> {
  const keysIn = (state: LoadoutState) => new Set(findBroken(state).map((broken) => brokenKey(broken, state)));
  return withLoadout(catalog, character, context, keysIn);
}

/**
 * What an edit would break that held before. What was broken before stands in no edit's way.
 *
 * @param slot - the slot the edit is about, where the problems are placed; the loadout as a whole when left out.
 * @returns a problem for each; its fix takes off what is in the way and then does the edit.
 */
export function wouldBreak(
  catalog: Catalog,
  before: Character,
  after: Character,
  context: Context,
  edit: Edit,
  slot?: string,
): readonly LoadoutProblem[] {
  return newlyBroken(catalog, before, after, context).map(({ subject, chain, culprits, advice, ...said }) => {
    const others = culprits.filter((worn) => worn.slot !== slot && getOwn(before.loadout, worn.slot) === worn.part.id);
    const fixes: Fix<Edit>[] = [];
    if (others.length > 0) {
      const parts = others.map(({ part }) => part.id);
      const removals = others.map((worn): Edit => ({ remove: worn.slot }));
      fixes.push(fixWith("take-off-first", { parts: [...new Set(parts)] }, [...removals, edit]));
    } else if (advice !== undefined) fixes.push(advice);
    const at = slot === undefined ? ["loadout"] : ["loadout", slot];
    return problemAbout(said, { subject, at, chain, fixes });
  });
}
