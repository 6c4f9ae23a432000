import { kindOf } from "../rules/rule-kinds.ts";
import type { RuleSource } from "../schema/schema.ts";
import { checkCondition, type KnownIds } from "./check-condition.ts";
import type { Findings } from "./findings.ts";
import { readCondition } from "./pattern.ts";
import type { Entry } from "./source.ts";

/** Finds what is wrong with a rule: keys that do not go together, and ids that name nothing. */
export function checkRule(entry: Entry<RuleSource>, known: KnownIds, findings: Findings): void {
  const rule = entry.value;
  const kind = kindOf(rule);
  if (kind === undefined) {
    findings.report(entry, [], "rule-of-no-kind");
    return;
  }
  for (const key of Object.keys(rule) as (keyof RuleSource)[]) {
    if (key === "say" || key === kind.key || kind.others.includes(key)) continue;
    findings.report(entry, [key], "rule-of-two-kinds", { key, kind: kind.key });
  }
  kind.check?.(entry, findings);
  if (kind.bounds !== undefined && rule.atLeast === undefined && rule.atMost === undefined)
    findings.report(entry, [], "rule-without-bounds");
  for (const key of ["atLeast", "atMost"] as const) {
    const bound = rule[key];
    if (typeof bound !== "object") continue;
    if (kind.bounds === "numbers") findings.report(entry, [key], "bound-of-count");
    findings.known(entry, [key, "stat"], "stat", bound.stat, known.stat);
  }
  for (const key of kind.stats) findings.known(entry, [key], "stat", rule[key] ?? "", known.stat);
  for (const key of kind.conditions) {
    const held = rule[key];
    if (Array.isArray(held)) {
      for (const [number, each] of held.entries())
        checkCondition(entry, [key, number], readCondition(each), known, findings);
    } else if (held !== undefined) checkCondition(entry, [key], readCondition(held), known, findings);
  }
}
