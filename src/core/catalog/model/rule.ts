import type { Place } from "../../base/problem.ts";
import type { Text } from "../../base/text.ts";

/** A statement about worn parts: by id, by tag, or by the slot they are in. */
export interface Pattern {
  readonly kind: "part" | "tag" | "slot";
  readonly id: string;
}

/** Something that holds of a character or not. */
export type Condition =
  | PlainCondition
  | { readonly kind: "any" | "all"; readonly of: readonly Condition[] }
  | { readonly kind: "not"; readonly of: Condition };

/** A condition that is not made of others. */
export type PlainCondition =
  | Pattern
  /** `outfit` holds while the outfit is worn whole. */
  | { readonly kind: "body" | "outfit"; readonly id: string }
  /** `fact` is an answer kept in the character; `signal` is the value the running game has set, any value but false and 0 when none is named. */
  | { readonly kind: "fact"; readonly id: string; readonly value: string }
  | { readonly kind: "signal"; readonly id: string; readonly value: string | undefined };

export type Rule = NeverRule | NeedsRule | TotalRule | CountRule | SetRule;

/** The rules of a kind. */
export type RuleOf<K extends Rule["kind"]> = Extract<Rule, { kind: K }>;

/** What every rule has. */
export interface EveryRule {
  /** Its place among the rules of the catalog, from 0. */
  readonly number: number;
  /** Where it is written. */
  readonly place: Place;
  /** The author's message to players. */
  readonly message: Text | undefined;
}

/** Where one condition holds, another must. */
export interface NeedsRule extends EveryRule {
  readonly kind: "needs";
  readonly when: Condition;
  readonly needs: Condition;
}

/** What something worn does to a stat: added first, then multiplied. */
export interface StatModifier {
  readonly add: number;
  readonly times: number;
}

/** A number, or the value of another stat. */
export type Bound = number | { readonly stat: string };

/** A stat of everything worn keeps within bounds. */
export interface TotalRule extends EveryRule {
  readonly kind: "total";
  readonly stat: string;
  readonly atLeast: Bound | undefined;
  readonly atMost: Bound | undefined;
}

/** The number of worn parts of a pattern keeps within bounds. */
export interface CountRule extends EveryRule {
  readonly kind: "count";
  readonly of: Pattern;
  readonly atLeast: number | undefined;
  readonly atMost: number | undefined;
}

/** While at least so many of the patterns are worn, stats are given something more. Nothing breaks it. */
export interface SetRule extends EveryRule {
  readonly kind: "set";
  /** Each counts once, however many parts match it. */
  readonly of: readonly Pattern[];
  readonly atLeast: number;
  readonly gives: Readonly<Record<string, StatModifier>>;
}

/** No two different parts may match two different patterns. */
export interface NeverRule extends EveryRule {
  readonly kind: "never";
  readonly patterns: readonly Pattern[];
  /** What putting on one of them does to the other. */
  readonly then: "displace" | "refuse";
}
