import { getOwn } from "../base/record.ts";
import { requireKnown } from "../base/require-known.ts";
import type { Catalog } from "../catalog/model/catalog.ts";
import { isGear } from "../character/bag/is-gear.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import type { Edit, LoadoutProblem } from "../character/edit.ts";
import { fixWith } from "../character/refuse.ts";
import { editMessage } from "../edits/edit-message.ts";
import type { Explained } from "../rules/explain-broken.ts";
import { type Broken, brokenKeys, countBroken, findBroken } from "../rules/find-broken.ts";
import { withLoadout } from "../rules/worn.ts";
import { editsTo, mendingEdit } from "./edits-to.ts";
import { NearestLoadout } from "./nearest-loadout.ts";
import { modelFor } from "./solve/model.ts";

type Fixes = LoadoutProblem["fixes"];

/** Steps that the search for one fix may take. */
const stepsOfFix = 5_000;

/**
 * Fixes of a finding: each is accepted as it is, breaks nothing else, and leaves nothing of the finding.
 *
 * Parts are taken off one by one; what must be put on, or takes several edits, is found by a search for the fewest.
 */
export function fixesFor(catalog: Catalog, character: Character, context: Context, said: Explained): Fixes {
  const earlier = withLoadout(catalog, character, context, countBroken);
  const isGone = (after: Character) =>
    withLoadout(catalog, after, context, (state) => {
      const later = countBroken(state);
      // A slot that is taken by many is still taken twice when it is taken by one fewer.
      const most = (key: string) => (said.broken.kind === "taken-twice" ? 0 : (earlier.get(key) ?? 0) - 1);
      return said.keys.every((key) => (later.get(key) ?? 0) <= most(key));
    });
  const mends = (edits: readonly Edit[]) => {
    const after = afterAll(catalog, character, edits, context);
    return after !== undefined && isGone(after);
  };
  const fixes = said.culprits.flatMap(({ part, slot }) => {
    const edits: readonly Edit[] = [{ remove: slot }];
    if (!mends(edits)) return [];
    if (part.slots.length === 1) return [fixWith("take-off", { part: part.id }, edits)];
    return [fixWith("take-off-from", { part: part.id, slot }, edits)];
  });
  // What is there may be right, and something else be missing.
  const kept = new Set(said.culprits.map(({ slot }) => slot));
  const added = isMissing(said) ? nearest(catalog, character, context, said, kept) : undefined;
  if (added !== undefined && mends(added)) return [...fixes, fixBy(character, added)];
  if (fixes.length > 0) return fixes;
  const edits = nearest(catalog, character, context, said, new Set());
  return edits !== undefined && mends(edits) ? [fixBy(character, edits)] : [];
}

/** Whether putting something on may mend a finding. */
function isMissing({ code }: Explained): boolean {
  return code === "needs-missing" || code === "need-unmet" || code === "total-too-low" || code === "count-too-low";
}

function fixBy(character: Character, edits: readonly Edit[]): Fixes[number] {
  return fixWith("do-edits", { edits: edits.map((edit) => editMessage(edit, character.loadout)) }, edits);
}

/** The fewest edits that leave nothing of a finding, while all else that is broken may stay so. */
function nearest(
  catalog: Catalog,
  character: Character,
  context: Context,
  said: Explained,
  kept: ReadonlySet<string>,
): readonly Edit[] | undefined {
  const body = requireKnown("body", character.body, catalog.bodies);
  const waived = withLoadout(catalog, character, context, (state) =>
    findBroken(state).filter((broken) => !isSame(broken, said, brokenKeys(broken, state))),
  );
  const model = modelFor(catalog, body, character, context);
  const bindOf = (slot: string) => (kept.has(slot) ? ("keep" as const) : undefined);
  const search = new NearestLoadout({ catalog, character, context, model, waived, bindOf });
  const budget = { steps: stepsOfFix };
  const { answer, size } = search.find(budget, undefined);
  if (answer === undefined) return undefined;
  const edits = editsTo(catalog, character, search.loadoutOf(search.preferred(answer, size, [], budget)), context);
  return edits.length === 0 ? undefined : edits;
}

/** Whether something broken is what a finding is about; a rule is not mended by halves. */
function isSame(broken: Broken, said: Explained, keys: readonly string[]): boolean {
  const isSameRule = broken.kind === "never" && said.broken.kind === "never" && broken.rule === said.broken.rule;
  return isSameRule || keys.some((key) => said.keys.includes(key));
}

/** A character after some edits; nothing when one of them is refused. */
function afterAll(
  catalog: Catalog,
  character: Character,
  edits: readonly Edit[],
  context: Context,
): Character | undefined {
  let current = character;
  for (const edit of edits) {
    const result = mendingEdit(catalog, current, edit, context);
    if (!result.ok) return undefined;
    current = result.character;
  }
  return current;
}

/** Fixes of a part that is worn in a slot and not owned: it is taken off, and gear is left behind. */
export function fixesForUnowned(catalog: Catalog, character: Character, context: Context, slot: string): Fixes {
  const part = getOwn(character.loadout, slot) ?? "";
  const left: readonly Edit[] =
    isGear(catalog, part) && catalog.slots.get(slot)?.kind === "gear" ? [{ drop: part }] : [];
  const off: readonly Edit[] = [{ remove: slot }, ...left];
  const isGone = (after: Character | undefined) => after !== undefined && getOwn(after.loadout, slot) !== part;
  if (isGone(afterAll(catalog, character, off, context))) return [fixWith("take-off", { part }, off)];
  const whole: readonly Edit[] = [{ together: off }];
  if (isGone(afterAll(catalog, character, whole, context))) return [fixWith("take-off", { part }, whole)];
  const body = requireKnown("body", character.body, catalog.bodies);
  const model = modelFor(catalog, body, character, context);
  const waived = withLoadout(catalog, character, context, findBroken);
  const search = new NearestLoadout({ catalog, character, context, model, waived, bindOf: () => undefined });
  const { answer } = search.find({ steps: stepsOfFix }, undefined);
  if (answer === undefined) return [];
  const edits = editsTo(catalog, character, search.loadoutOf(answer), context);
  return isGone(afterAll(catalog, character, edits, context)) ? [fixBy(character, edits)] : [];
}
