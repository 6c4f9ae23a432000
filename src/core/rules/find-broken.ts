import { fitsBody } from "./fits-body.ts";
import type { LoadoutState } from "./loadout-state.ts";

/** Something about what is worn that does not hold; slots, stats and rules by number. */
export type Broken =
  | { readonly kind: "misplaced" | "misfit" | "taken-twice" | "empty"; readonly slot: number }
  | { readonly kind: "need"; readonly slot: number; readonly stat: number; readonly atLeast: number }
  | { readonly kind: "never"; readonly rule: number; readonly one: number; readonly other: number }
  | { readonly kind: "rule"; readonly rule: number };

const nothing: readonly Broken[] = [];

/**
 * Finds everything that does not hold of what is worn. Costs what is worn and the rules it concerns, never what the catalog
 * holds.
 *
 * @returns slot by slot what is in the wrong place, then what is taken twice, needs, rules in their order, empty slots.
 */
export function findBroken(state: LoadoutState): readonly Broken[] {
  const slotwise = brokenSlots(state);
  const rules = brokenRules(state);
  if (slotwise === nothing && rules === nothing) return nothing;
  const order = (broken: Broken) => kinds.indexOf(broken.kind);
  return [...slotwise, ...rules].sort((one, other) => order(one) - order(other));
}

const kinds: readonly Broken["kind"][] = ["misplaced", "misfit", "taken-twice", "never", "need", "rule", "empty"];

/** How often there is each thing that does not hold, by what makes it the same before and after an edit: never by its slot, if it can move. */
export function countBroken(state: LoadoutState): ReadonlyMap<string, number> {
  const counts = new Map<string, number>();
  for (const broken of findBroken(state)) {
    for (const key of brokenKeys(broken, state)) counts.set(key, (counts.get(key) ?? 0) + 1);
  }
  return counts;
}

/** What makes a finding the same before and after an edit; of a slot that is taken by many, each two that take it are one. */
export function brokenKeys(broken: Broken, state: LoadoutState): readonly string[] {
  const partIn = (slot: number) => state.worn[slot]?.id ?? "";
  const pair = (one: number, other: number) => {
    const [first, second] = [partIn(one), partIn(other)];
    return first < second ? `${first} ${second}` : `${second} ${first}`;
  };
  switch (broken.kind) {
    case "need":
      return [`need ${broken.stat} ${partIn(broken.slot)}`];
    case "never":
      return [`never ${broken.rule} ${pair(broken.one, broken.other)}`];
    case "rule":
      return [`rule ${broken.rule}`];
    case "empty":
      return [`empty ${broken.slot}`];
    case "taken-twice": {
      const takers = takersOf(broken.slot, state);
      return takers.flatMap((one, at) =>
        takers.slice(at + 1).map((other) => `taken-twice ${broken.slot} ${pair(one, other)}`),
      );
    }
    case "misplaced":
    case "misfit":
      return [`${broken.kind} ${broken.slot} ${partIn(broken.slot)}`];
  }
}

/** The slots whose parts take a slot. */
export function takersOf(slot: number, { worn }: LoadoutState): readonly number[] {
  return [...worn.keys()].filter((at) => {
    const part = worn[at];
    return part !== undefined && (at === slot || part.compiled.covers.includes(slot));
  });
}

function brokenSlots(state: LoadoutState): readonly Broken[] {
  const { worn, covered, required } = state;
  let found: Broken[] | undefined;
  const report = (broken: Broken) => {
    if (found === undefined) found = [broken];
    else found.push(broken);
  };
  for (const slot of required) if (covered[slot] === 0) report({ kind: "empty", slot });
  const body = state.body?.id ?? "";
  for (let slot = 0; slot < worn.length; slot += 1) {
    if ((covered[slot] as number) > 1) report({ kind: "taken-twice", slot });
    const part = worn[slot];
    if (part === undefined) continue;
    const { places, requires: needs } = part.compiled;
    if (places[0] !== slot && !places.includes(slot)) report({ kind: "misplaced", slot });
    if (part.fits !== undefined && state.issued[slot] === 0 && !fitsBody(part, body)) report({ kind: "misfit", slot });
    for (let at = 0; at < needs.length; at += 1) {
      const { stat = 0, atLeast = 0 } = needs[at] ?? {};
      if (state.stat(stat, slot) < atLeast) report({ kind: "need", slot, stat, atLeast });
    }
  }
  return found ?? nothing;
}

function brokenRules(state: LoadoutState): readonly Broken[] {
  const { rules } = state.catalog.compiled;
  const broken = state.brokenRules();
  if (broken.length === 0) return nothing;
  return [...broken]
    .sort((one, other) => one - other)
    .flatMap((number) => {
      const rule = rules[number];
      return rule?.kind === "exclusive"
        ? pairsOf(number, rule.marks, state)
        : [{ kind: "rule" as const, rule: number }];
    });
}

/** The pairs of slots whose parts a rule excludes. It is asked at every edit that is tried, so that it makes no functions for each slot. */
function pairsOf(rule: number, marks: readonly number[], state: LoadoutState): readonly Broken[] {
  const pairs: Broken[] = [];
  for (let one = 0; one < state.worn.length; one += 1) {
    if (!hasOther(marks, -1, one, state)) continue;
    for (let other = one + 1; other < state.worn.length; other += 1) {
      if (meet(marks, one, other, state)) pairs.push({ kind: "never", rule, one, other });
    }
  }
  return pairs;
}

/** Whether two slots have two of these marks. */
function meet(marks: readonly number[], one: number, other: number, state: LoadoutState): boolean {
  for (let at = 0; at < marks.length; at += 1) {
    if (state.has(one, marks[at] as number) && hasOther(marks, at, other, state)) return true;
  }
  return false;
}

/** Whether a slot has one of these marks, besides the one at that place. */
function hasOther(marks: readonly number[], besides: number, slot: number, state: LoadoutState): boolean {
  for (let at = 0; at < marks.length; at += 1) {
    if (at !== besides && state.has(slot, marks[at] as number)) return true;
  }
  return false;
}
