import type { Condition, PlainCondition } from "../model/catalog.ts";

/** What comes of a condition, by what it is: of one that holds others, by what comes of those. */
export interface ConditionVisitor<T> {
  plain(condition: PlainCondition): T;
  any(each: readonly T[]): T;
  all(each: readonly T[]): T;
  not(inner: T): T;
}

/** Goes through a condition, the innermost first. */
export function visitCondition<T>(condition: Condition, visitor: ConditionVisitor<T>): T {
  switch (condition.kind) {
    case "any":
      return visitor.any(condition.of.map((each) => visitCondition(each, visitor)));
    case "all":
      return visitor.all(condition.of.map((each) => visitCondition(each, visitor)));
    case "not":
      return visitor.not(visitCondition(condition.of, visitor));
    default:
      return visitor.plain(condition);
  }
}

/** The plain conditions that one is put together of, in their order. */
export function plainConditions(condition: Condition): readonly PlainCondition[] {
  return visitCondition(condition, { ...gathering, not: (inner) => inner });
}

/** The same without those that must not hold. */
export function wantedConditions(condition: Condition): readonly PlainCondition[] {
  return visitCondition(condition, { ...gathering, not: () => [] });
}

const gathering: Omit<ConditionVisitor<readonly PlainCondition[]>, "not"> = {
  plain: (condition) => [condition],
  any: (each) => each.flat(),
  all: (each) => each.flat(),
};
