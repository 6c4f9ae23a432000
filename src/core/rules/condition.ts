import { expanded } from "../catalog/conditions/condition-kinds.ts";
import type { Condition, Pattern } from "../catalog/model/catalog.ts";
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
  switch (condition.kind) {
    case "any":
    case "all":
      return [...new Set(condition.of.flatMap((each) => partsIn(each, dressed)))];
    case "not":
      return [];
    default: {
      const meant = expanded(condition, dressed.catalog.outfits);
      if (meant !== condition) return partsIn(meant, dressed);
      const { matches } = judgedKind(condition);
      return dressed.worn.filter((worn) => matches?.(condition, worn) === true);
    }
  }
}

/** The facts a condition looks at: what is worn of it, the body, answers, signals. */
export function evidenceIn(condition: Condition, dressed: Dressed): readonly Evidence[] {
  switch (condition.kind) {
    case "any":
    case "all":
      return condition.of.flatMap((each) => evidenceIn(each, dressed));
    case "not":
      return evidenceIn(condition.of, dressed);
    default: {
      const { given } = judgedKind(condition);
      if (given === undefined) return partsIn(condition, dressed).map(wornEvidence);
      return [given.evidence(condition, dressed.character, dressed.context)];
    }
  }
}

/** That a part is worn. */
export function wornEvidence({ slot, part, issued }: Worn): Evidence {
  return { kind: "worn", part: part.id, slot, issued };
}
