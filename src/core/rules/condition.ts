import { expanded } from "../catalog/conditions/condition-kinds.ts";
import { plainConditions, wantedConditions } from "../catalog/conditions/visit-condition.ts";
import type { Condition, Pattern, PlainCondition } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import type { Evidence } from "../character/edit.ts";
import type { Situation } from "../character/situation.ts";
import { judgedKind } from "./judged-kinds.ts";
import type { Worn } from "./worn.ts";

/** A situation with what is worn in it, as conditions are judged by. */
export interface Dressed extends Pick<Situation, "catalog" | "context"> {
  readonly character: Pick<Character, "body" | "loadout" | "facts">;
  readonly worn: readonly Worn[];
}

/** Whether a worn part is of the kind a pattern names. */
export function matches(pattern: Pattern, worn: Worn): boolean {
  return judgedKind(pattern).matches?.(pattern, worn) === true;
}

/** Whether a condition holds of a character as it is dressed, under the signals of the context. */
export function holds(condition: Condition, dressed: Dressed): boolean {
  // Not by a visitor: what is settled by the first of many is not asked of the others.
  switch (condition.kind) {
    case "any":
      return condition.of.some((each) => holds(each, dressed));
    case "all":
      return condition.of.every((each) => holds(each, dressed));
    case "not":
      return !holds(condition.of, dressed);
    default: {
      const { catalog, character, context, worn } = dressed;
      const meant = expanded(condition, catalog.outfits);
      if (meant !== condition) return holds(meant, dressed);
      const { matches, given } = judgedKind(condition);
      return given?.holds(condition, character, context) ?? worn.some((each) => matches?.(condition, each) === true);
    }
  }
}

/** Of a condition that holds, what makes it hold. */
export function presentIn(condition: Condition, dressed: Dressed): Condition {
  if (condition.kind !== "any") return condition;
  const there = condition.of.filter((each) => holds(each, dressed)).map((each) => presentIn(each, dressed));
  const [only, ...others] = there;
  return only !== undefined && others.length === 0 ? only : { ...condition, of: there };
}

/** Of a condition that does not hold, what is missing. */
export function missingIn(condition: Condition, dressed: Dressed): Condition {
  if (condition.kind !== "all") return condition;
  const missing = condition.of.filter((each) => !holds(each, dressed)).map((each) => missingIn(each, dressed));
  const [only, ...others] = missing;
  return only !== undefined && others.length === 0 ? only : { ...condition, of: missing };
}

/** The worn parts that a condition speaks of, other than to forbid them. */
export function partsIn(condition: Condition, dressed: Dressed): readonly Worn[] {
  const found = wantedConditions(condition).flatMap((each) => {
    const meant = expanded(each, dressed.catalog.outfits);
    if (meant !== each) return partsIn(meant, dressed);
    const { matches } = judgedKind(each);
    return dressed.worn.filter((worn) => matches?.(each, worn) === true);
  });
  return [...new Set(found)];
}

/** The patterns of parts that a condition names, other than to forbid them. */
export function patternsIn(condition: Condition): readonly Pattern[] {
  return wantedConditions(condition).flatMap((each) => (isPattern(each) ? [each] : []));
}

function isPattern(condition: PlainCondition): condition is Pattern {
  return judgedKind(condition).matches !== undefined;
}

/** The facts a condition looks at: what is worn of it, the body, answers, signals. */
export function evidenceIn(condition: Condition, dressed: Dressed): readonly Evidence[] {
  return plainConditions(condition).flatMap((each) => {
    const { given } = judgedKind(each);
    if (given === undefined) return partsIn(each, dressed).map(wornEvidence);
    return [given.evidence(each, dressed.character, dressed.context)];
  });
}

/** That a part is worn. */
export function wornEvidence({ slot, part, issued }: Worn): Evidence {
  return { kind: "worn", part: part.id, slot, issued };
}
