import Logic from "logic-solver";
import { type Catalog, type Character, checkLoadout } from "zealous-mantle";
import { type Below, needOf, type RuleSource, type Source, wearing } from "./catalogs.ts";

/** The character with parts put in whatever rules say, until something is broken. */
export function broke(catalog: Catalog, character: Character, below: Below): Character {
  const slots = [...catalog.slots.values()];
  let { loadout } = character;
  for (let turn = 0; turn < 4 || checkLoadout(catalog, { ...character, loadout }).length === 0; turn += 1) {
    const slot = slots[below(slots.length)];
    const part = slot?.parts[below(slot.parts.length)];
    if (slot !== undefined && part !== undefined) loadout = { ...loadout, [slot.id]: part.id };
  }
  return wearing(catalog, loadout);
}

/** In how many slots at least a loadout has to change, found with a general solver. */
export function fewestChanges(source: Source, { loadout }: Character): number {
  const solver = new Logic.Solver();
  const parts = Object.entries(source.parts);
  for (const slot of Object.keys(source.slots)) {
    solver.require(Logic.atMostOne(...parts.filter(([, part]) => part.slot === slot).map(([id]) => id)));
  }
  const matching = (pattern: string): readonly string[] => {
    const [kind, named = ""] = pattern.split(":");
    if (kind === "part") return [named];
    return parts
      .filter(([, part]) => (kind === "tag" ? part.tags.includes(named) : part.slot === named))
      .map(([id]) => id);
  };
  const someOf = (pattern: string) => Logic.or(...matching(pattern));
  for (const rule of source.rules) require(solver, rule, matching, someOf, parts);
  const changes = Object.keys(source.slots).map((slot) => {
    const worn = loadout[slot];
    const inSlot = parts.filter(([, part]) => part.slot === slot).map(([id]) => id);
    return worn === undefined ? Logic.or(...inSlot) : Logic.not(worn);
  });
  const first = solver.solve();
  if (first === null) throw new Error("There is no valid loadout");
  const least = solver.minimizeWeightedSum(first, changes, 1);
  return least.getWeightedSum(changes, 1);
}

function require(
  solver: Logic.Solver,
  rule: RuleSource,
  matching: (pattern: string) => readonly string[],
  someOf: (pattern: string) => Logic.Formula,
  parts: readonly (readonly [string, Source["parts"][string]])[],
): void {
  const need = needOf(rule);
  if (rule.never !== undefined) {
    const [one = "", other = ""] = rule.never;
    for (const a of matching(one)) {
      for (const b of matching(other)) if (a !== b) solver.require(Logic.atMostOne(a, b));
    }
  } else if (need !== undefined) {
    solver.require(Logic.implies(someOf(need.when), Logic.or(...need.any.map(someOf))));
  } else if (rule.count !== undefined) {
    const sum = Logic.sum(...matching(rule.count));
    solver.require(Logic.lessThanOrEqual(sum, Logic.constantBits(rule.atMost ?? 0)));
  } else {
    const weights = parts.map(([, { gives }]) => gives["weight"] ?? 0);
    const sum = Logic.weightedSum(
      parts.map(([id]) => id),
      weights,
    );
    solver.require(Logic.lessThanOrEqual(sum, Logic.constantBits(rule.atMost ?? 0)));
  }
}
