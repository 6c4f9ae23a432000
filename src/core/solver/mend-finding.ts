import { getOwn } from "../base/record.ts";
import { requireKnown } from "../base/require-known.ts";
import type { Character } from "../character/character.ts";
import type { Edit, LoadoutProblem } from "../character/edit.ts";
import { fixWith } from "../character/refuse.ts";
import type { Situation } from "../character/situation.ts";
import { editMessage } from "../edits/edit-message.ts";
import { afterAll, mendingByTakingOff, mends } from "../loadout/mend-by-taking-off.ts";
import type { Mending } from "../loadout/solver.ts";
import type { Explained } from "../rules/explain-broken.ts";
import { type Broken, brokenKeys, findBroken } from "../rules/find-broken.ts";
import { withLoadout } from "../rules/worn.ts";
import { editsTo } from "./edits-to.ts";
import { modelFor } from "./model.ts";
import { NearestLoadout } from "./nearest-loadout.ts";

/** Steps that the search for one fix may take. */
const stepsOfFix = 5_000;

/**
 * Mends by taking parts off one by one; what must be put on, or takes several edits, is found by a search for the fewest. Each fix is
 * accepted as it is, breaks nothing else, and leaves nothing of its finding.
 */
export const mendingBySearch: Mending = {
  fixesFor(situation, said) {
    const fixes = mendingByTakingOff.fixesFor(situation, said);
    // What is there may be right, and something else be missing.
    const kept = new Set(said.culprits.map(({ slot }) => slot));
    const added = isMissing(said) ? nearest(situation, said, kept) : undefined;
    if (added !== undefined) return [...fixes, fixBy(situation.character, added)];
    if (fixes.length > 0) return fixes;
    const edits = nearest(situation, said, new Set());
    return edits === undefined ? [] : [fixBy(situation.character, edits)];
  },
  fixesForUnowned(situation, slot) {
    const fixes = mendingByTakingOff.fixesForUnowned(situation, slot);
    if (fixes.length > 0) return fixes;
    const { catalog, character, context } = situation;
    const body = requireKnown("body", character.body, catalog.bodies);
    const model = modelFor(catalog, body, character, context);
    const waived = withLoadout(catalog, character, context, findBroken);
    const search = new NearestLoadout({ ...situation, model, waived, bindOf: () => undefined });
    const { answer } = search.find({ steps: stepsOfFix }, undefined);
    if (answer === undefined) return [];
    const edits = editsTo(situation, search.loadoutOf(answer));
    const after = afterAll(situation, edits);
    const isGone = after !== undefined && getOwn(after.loadout, slot) !== getOwn(character.loadout, slot);
    return isGone ? [fixBy(situation.character, edits)] : [];
  },
};

/** Whether putting something on may mend a finding. */
function isMissing({ code }: Explained): boolean {
  return code === "needs-missing" || code === "need-unmet" || code === "total-too-low" || code === "count-too-low";
}

function fixBy(character: Character, edits: readonly Edit[]): LoadoutProblem["fixes"][number] {
  return fixWith("do-edits", { edits: edits.map((edit) => editMessage(edit, character.loadout)) }, edits);
}

/** The fewest edits that mend a finding, while all else that is broken may stay so. */
function nearest(situation: Situation, said: Explained, kept: ReadonlySet<string>): readonly Edit[] | undefined {
  const { catalog, character, context } = situation;
  const body = requireKnown("body", character.body, catalog.bodies);
  const waived = withLoadout(catalog, character, context, (state) =>
    findBroken(state).filter((broken) => !isSame(broken, said, brokenKeys(broken, state))),
  );
  const model = modelFor(catalog, body, character, context);
  const bindOf = (slot: string) => (kept.has(slot) ? ("keep" as const) : undefined);
  const search = new NearestLoadout({ ...situation, model, waived, bindOf });
  const budget = { steps: stepsOfFix };
  const { answer, size } = search.find(budget, undefined);
  if (answer === undefined) return undefined;
  const edits = editsTo(situation, search.loadoutOf(search.preferred(answer, size, [], budget)));
  if (!mends(situation, said, edits)) return undefined;
  // What is worn in the wrong place had to go in the search, and need not here.
  let needed = edits;
  for (const edit of edits) {
    const fewer = needed.filter((each) => each !== edit);
    if (fewer.length > 0 && mends(situation, said, fewer)) needed = fewer;
  }
  return needed;
}

/** Whether something broken is what a finding is about; a rule is not mended by halves. */
function isSame(broken: Broken, said: Explained, keys: readonly string[]): boolean {
  const isSameRule = broken.kind === "never" && said.broken.kind === "never" && broken.rule === said.broken.rule;
  return isSameRule || keys.some((key) => said.keys.includes(key));
}
