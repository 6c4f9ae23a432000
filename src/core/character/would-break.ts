import type { Catalog } from "../catalog/catalog.ts";
import type { Fix } from "../problem.ts";
import { valueAt } from "../record.ts";
import { type BrokenRule, brokenRules } from "./broken-rules.ts";
import type { Character } from "./character.ts";
import { dressedAs } from "./condition.ts";
import { conflictsBetween, sayConflict } from "./conflict.ts";
import type { Edit, LoadoutProblem } from "./edit.ts";
import { characterProblem } from "./refuse.ts";
import { sayUnmetNeed, unmetNeeds } from "./stats.ts";
import type { Leaving } from "./take-off.ts";
import type { Worn } from "./worn.ts";

/** Something that an edit would break: what, and the worn parts without which it would not. */
interface Break {
  readonly code?: string;
  readonly because: string;
  readonly advice: string | undefined;
  readonly culprits: readonly Worn[];
}

/**
 * What an edit would break that held before: a required slot nothing would fill, a default that comes back and may not be worn
 * with the rest, a need of a part, or a rule. What was broken before stands in no edit's way.
 *
 * @param slot - the slot the edit is about, where the problems are said to be; the loadout as a whole when left out.
 * @returns a problem for each; its fix takes off what is in the way and then does the edit.
 */
export function wouldBreak(
  catalog: Catalog,
  before: Character,
  after: Character,
  leaving: readonly Leaving[],
  edit: Edit,
  slot?: string,
): readonly LoadoutProblem[] {
  const dressed = dressedAs(catalog, after);
  const breaks: readonly Break[] = [
    ...emptied(catalog, dressed.worn, leaving),
    ...clashes(dressed.worn),
    ...newlyUnmet(catalog, before, after),
    ...newlyBroken(catalog, before, after),
  ];
  return breaks.map(({ code = "would-break", because, advice, culprits }) => {
    const others = culprits.filter((worn) => worn.slot !== slot && valueAt(before.loadout, worn.slot) === worn.part.id);
    const fixes: Fix<Edit>[] = [];
    if (others.length > 0) {
      const names = others.map(({ part }) => `"${part.id}"`).join(" and ");
      fixes.push({ say: `Take ${names} off first.`, edits: [...others.map((worn) => ({ remove: worn.slot })), edit] });
    } else if (advice !== undefined) fixes.push({ say: advice });
    return characterProblem(code, slot === undefined ? ["loadout"] : ["loadout", slot], because, ...fixes);
  });
}

/** The rules that hold before a change and not after. */
export function newlyBroken(catalog: Catalog, before: Character, after: Character): readonly BrokenRule[] {
  const broken = new Set(brokenRules(dressedAs(catalog, before)).map(({ rule }) => rule));
  return brokenRules(dressedAs(catalog, after)).filter(({ rule }) => !broken.has(rule));
}

function newlyUnmet(catalog: Catalog, before: Character, after: Character): readonly Break[] {
  const unmet = new Set(unmetNeeds(catalog, before).map(sayUnmetNeed));
  return unmetNeeds(catalog, after)
    .map((need) => ({ because: sayUnmetNeed(need), advice: undefined, culprits: [need.worn] }))
    .filter(({ because }) => !unmet.has(because));
}

function emptied(catalog: Catalog, worn: readonly Worn[], leaving: readonly Leaving[]): readonly Break[] {
  const filled = new Set(worn.flatMap(({ slot, part }) => [slot, ...part.occupies]));
  return leaving
    .filter(({ worn: { slot } }) => catalog.slots.get(slot)?.required && !filled.has(slot))
    .map(({ worn: { slot, part } }) => ({
      code: "required-slot",
      because: `Slot "${slot}" must not be empty, and nothing would take the place of "${part.id}".`,
      advice: undefined,
      culprits: [],
    }));
}

function clashes(worn: readonly Worn[]): readonly Break[] {
  return worn
    .filter(({ issued }) => issued)
    .flatMap((back) => worn.filter((other) => other !== back).flatMap((other) => conflictsBetween(back, other)))
    .map((conflict) => ({ because: sayConflict(conflict), advice: undefined, culprits: [conflict.other] }));
}
