import type { NeverRule } from "../catalog/catalog.ts";
import { textIn } from "../catalog/text.ts";
import { matches } from "./condition.ts";
import type { Worn } from "./worn.ts";

/** Two worn parts that a rule keeps apart. */
export interface Conflict {
  readonly rule: NeverRule;
  readonly one: Worn;
  readonly other: Worn;
}

/** The rules that keep two worn parts apart. */
export function conflictsBetween(one: Worn, other: Worn): readonly Conflict[] {
  if (one.part.rules.length === 0 || other.part.rules.length === 0) return [];
  return one.part.rules.filter((rule) => keepsApart(rule, one, other)).map((rule) => ({ rule, one, other }));
}

/** One sentence that says why two parts cannot be worn together. */
export function sayConflict({ rule, one, other }: Conflict): string {
  const said = rule.say === undefined ? "" : ` ${textIn(rule.say)}`;
  return `"${one.part.id}" and "${other.part.id}" are never worn together.${said}`;
}

function keepsApart(rule: NeverRule, one: Worn, other: Worn): boolean {
  return rule.patterns.some(
    (pattern, number) =>
      matches(pattern, one) && rule.patterns.some((another, at) => at !== number && matches(another, other)),
  );
}
