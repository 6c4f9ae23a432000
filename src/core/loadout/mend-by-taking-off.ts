import { getOwn } from "../base/record.ts";
import { isGear } from "../character/bag/is-gear.ts";
import type { Character } from "../character/character.ts";
import type { Edit, LoadoutProblem } from "../character/edit.ts";
import { fixWith } from "../character/refuse.ts";
import type { Situation } from "../character/situation.ts";
import type { Explained } from "../rules/explain-broken.ts";
import { countBroken, findBroken } from "../rules/find-broken.ts";
import { withLoadout } from "../rules/worn.ts";
import { mendingEdit } from "./mending-edit.ts";
import type { Mending } from "./solver.ts";

type Fixes = LoadoutProblem["fixes"];

/** Whether some edits are accepted and leave nothing of a finding. */
export function mends(situation: Situation, said: Explained, edits: readonly Edit[]): boolean {
  const { catalog, character, context } = situation;
  const after = afterAll(situation, edits);
  if (after === undefined) return false;
  const earlier = withLoadout(catalog, character, context, countBroken);
  return withLoadout(catalog, after, context, (state) => {
    const later = countBroken(state);
    // The same may be wrong in two places, of which this is one.
    const here = JSON.stringify(said.broken);
    if (findBroken(state).some((broken) => JSON.stringify(broken) === here)) return false;
    // A slot that is taken by many is still taken twice when it is taken by one fewer.
    const most = (key: string) => (said.broken.kind === "taken-twice" ? 0 : (earlier.get(key) ?? 0) - 1);
    return said.keys.every((key) => (later.get(key) ?? 0) <= most(key));
  });
}

/** A character after some edits; nothing when one of them is refused. */
export function afterAll(situation: Situation, edits: readonly Edit[]): Character | undefined {
  let current = situation.character;
  for (const edit of edits) {
    const result = mendingEdit({ ...situation, character: current }, edit);
    if (!result.ok) return undefined;
    current = result.character;
  }
  return current;
}

/** Mends by taking parts off, one at a time: what needs more than that has no fix here. */
export const mendingByTakingOff: Mending = {
  fixesFor: (situation, said) =>
    said.culprits.flatMap(({ part, slot }): Fixes => {
      const edits: readonly Edit[] = [{ remove: slot }];
      if (!mends(situation, said, edits)) return [];
      if (part.slots.length === 1) return [fixWith("take-off", { part: part.id }, edits)];
      return [fixWith("take-off-from", { part: part.id, slot }, edits)];
    }),
  /** Gear is left behind. */
  fixesForUnowned(situation, slot) {
    const { catalog, character } = situation;
    const part = getOwn(character.loadout, slot) ?? "";
    const isThing = isGear(catalog, part) && catalog.slots.get(slot)?.kind === "gear";
    const off: readonly Edit[] = [{ remove: slot }, ...(isThing ? [{ drop: part }] : [])];
    const ways: readonly (readonly Edit[])[] = [off, [{ together: off }]];
    const edits = ways.find((way) => {
      const after = afterAll(situation, way);
      return after !== undefined && getOwn(after.loadout, slot) !== part;
    });
    return edits === undefined ? [] : [fixWith("take-off", { part }, edits)];
  },
};
