import type { Bound, Rule } from "../catalog/model/catalog.ts";
import { sayText, type Voice } from "../character/wording.ts";

/** Says a rule as a sentence, whoever it concerns. */
export function sayRule(voice: Voice, rule: Rule): string {
  switch (rule.kind) {
    case "never":
      return sayText(voice, "rule-never", { patterns: { kind: "all", of: rule.patterns } });
    case "needs":
      return sayText(voice, "needs-missing", { when: rule.when, needs: rule.needs });
    case "total":
    case "count": {
      const words = rule.kind === "total" ? { stat: rule.stat } : { pattern: rule.of };
      const most =
        rule.atMost === undefined
          ? []
          : [sayText(voice, `rule-${rule.kind}-most`, { ...words, bound: sayBound(voice, rule.atMost) })];
      const least =
        rule.atLeast === undefined
          ? []
          : [sayText(voice, `rule-${rule.kind}-least`, { ...words, bound: sayBound(voice, rule.atLeast) })];
      return [...most, ...least].join(" ");
    }
  }
}

function sayBound(voice: Voice, bound: Bound): string | number {
  return typeof bound === "number" ? bound : sayText(voice, "a-stat", { stat: bound.stat });
}
