import type { Bound, CountRule, NeedsRule, Rule, TotalRule } from "../catalog/catalog.ts";
import { textIn } from "../catalog/text.ts";
import { valueAt } from "../record.ts";
import { type Dressed, holds, matches, partsIn, sayCondition } from "./condition.ts";
import { statsOf } from "./stats.ts";
import type { Worn } from "./worn.ts";

/** A rule about the whole character that does not hold. */
export interface BrokenRule {
  readonly rule: NeedsRule | TotalRule | CountRule;
  readonly code: "needs-missing" | "total-out-of-bounds" | "count-out-of-bounds";
  /** One sentence that says what is wrong, followed by what the author says of the rule. */
  readonly because: string;
  /** One sentence that says what to do other than take something off. */
  readonly advice: string | undefined;
  /** The worn parts it is about: without them it would hold. Issued ones cannot be taken off and are not among them. */
  readonly culprits: readonly Worn[];
}

/** The needs, totals and counts that do not hold, in the order of the catalog's rules. */
export function brokenRules(dressed: Dressed): readonly BrokenRule[] {
  return dressed.catalog.rules.flatMap((rule) => judge(rule, dressed));
}

function judge(rule: Rule, dressed: Dressed): readonly BrokenRule[] {
  switch (rule.kind) {
    case "never":
      return [];
    case "needs":
      return brokenNeeds(rule, dressed);
    case "total":
      return brokenTotal(rule, dressed);
    case "count":
      return brokenCount(rule, dressed);
  }
}

function brokenNeeds(rule: NeedsRule, dressed: Dressed): readonly BrokenRule[] {
  if (!holds(rule.when, dressed) || holds(rule.needs, dressed)) return [];
  const needed = sayCondition(rule.needs);
  const because = said(rule, `With ${sayCondition(rule.when)} there must be ${needed}.`);
  const culprits = chosen(partsIn(rule.when, dressed));
  return [{ rule, code: "needs-missing", because, advice: `See to it that there is ${needed}.`, culprits }];
}

function brokenTotal(rule: TotalRule, dressed: Dressed): readonly BrokenRule[] {
  const stats = statsOf(dressed.catalog, dressed.character);
  const total = valueAt(stats, rule.stat) ?? 0;
  const limit = (bound: Bound) => (typeof bound === "number" ? bound : (valueAt(stats, bound.stat) ?? 0));
  const outside = outsideOf(total, rule, limit);
  if (outside === undefined) return [];
  const raises = (worn: Worn) => (valueAt(worn.part.gives, rule.stat)?.add ?? 0) > 0 === (outside.side === "most");
  const culprits = chosen(
    dressed.worn.filter((worn) => valueAt(worn.part.gives, rule.stat) !== undefined && raises(worn)),
  );
  const because = said(
    rule,
    `The ${rule.stat} of everything worn is ${total}, and ${outside.limit} is the ${outside.side}.`,
  );
  return [{ rule, code: "total-out-of-bounds", because, advice: undefined, culprits }];
}

function brokenCount(rule: CountRule, dressed: Dressed): readonly BrokenRule[] {
  const counted = dressed.worn.filter((worn) => matches(rule.of, worn));
  const outside = outsideOf(counted.length, rule, (bound) => bound);
  if (outside === undefined) return [];
  const because = said(
    rule,
    `${counted.length} of ${sayCondition(rule.of)} ${counted.length === 1 ? "is" : "are"} worn, and ${outside.limit} is the ${outside.side}.`,
  );
  const advice = outside.side === "least" ? `Put on more of ${sayCondition(rule.of)}.` : undefined;
  return [
    { rule, code: "count-out-of-bounds", because, advice, culprits: outside.side === "most" ? chosen(counted) : [] },
  ];
}

function outsideOf<B>(
  value: number,
  { atLeast, atMost }: { readonly atLeast: B | undefined; readonly atMost: B | undefined },
  limit: (bound: B) => number,
): { readonly side: "least" | "most"; readonly limit: number } | undefined {
  if (atMost !== undefined && value > limit(atMost)) return { side: "most", limit: limit(atMost) };
  if (atLeast !== undefined && value < limit(atLeast)) return { side: "least", limit: limit(atLeast) };
  return undefined;
}

function chosen(worn: readonly Worn[]): readonly Worn[] {
  return worn.filter(({ issued }) => !issued);
}

function said({ say }: BrokenRule["rule"], sentence: string): string {
  return say === undefined ? sentence : `${sentence} ${textIn(say)}`;
}
