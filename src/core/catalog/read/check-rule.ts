import type { Condition } from "../model/catalog.ts";
import type { RuleSource } from "../schema/schema.ts";
import type { Findings, Known } from "./findings.ts";
import { readCondition } from "./pattern.ts";
import type { Entry, Sources } from "./source.ts";

/** The ids that rules can name. */
export type KnownIds = Readonly<Record<"part" | "tag" | "slot" | "body" | "outfit" | "stat", Known>>;

/** Gathers the ids that rules can name; a stat is one that the catalog names, a body has, or a part gives. */
export function idsForRules(sources: Sources): KnownIds {
  const tags = new Set<string>();
  const stats = new Set(sources.stats.keys());
  for (const { value } of sources.bodies.values()) for (const stat in value.stats) stats.add(stat);
  for (const { value } of sources.parts.values()) {
    for (const tag of value.tags ?? []) tags.add(tag);
    for (const stat in value.gives) stats.add(stat);
  }
  return {
    part: sources.parts,
    slot: sources.slots,
    body: sources.bodies,
    outfit: sources.outfits,
    tag: tags,
    stat: stats,
  };
}

/** Which keys belong to each kind of rule, besides `say`; the first makes the kind. */
const kinds: readonly (readonly (keyof RuleSource)[])[] = [
  ["never", "then"],
  ["if", "needs"],
  ["total", "atLeast", "atMost"],
  ["count", "atLeast", "atMost"],
];

/** Finds what is wrong with a rule: keys that do not go together, and ids that name nothing. */
export function checkRule(entry: Entry<RuleSource>, known: KnownIds, findings: Findings): void {
  const rule = entry.value;
  const kind = kinds.find(([key]) => key !== undefined && rule[key] !== undefined);
  if (kind === undefined) {
    findings.report(entry, [], "rule-of-no-kind");
    return;
  }
  for (const key of Object.keys(rule) as (keyof RuleSource)[]) {
    if (key === "say" || kind.includes(key)) continue;
    findings.report(entry, [key], "rule-of-two-kinds", { key, kind: kind[0] ?? "" });
  }
  if (rule.if !== undefined && rule.needs === undefined) {
    findings.report(entry, ["if"], "rule-without-needs");
  }
  if ((rule.total ?? rule.count) !== undefined && rule.atLeast === undefined && rule.atMost === undefined) {
    findings.report(entry, [], "rule-without-bounds");
  }
  checkBounds(entry, known, findings);
  for (const [number, pattern] of (rule.never ?? []).entries()) {
    checkCondition(entry, ["never", number], readCondition(pattern), known, findings);
  }
  for (const key of ["if", "needs", "count"] as const) {
    const condition = rule[key];
    if (condition !== undefined) checkCondition(entry, [key], readCondition(condition), known, findings);
  }
}

function checkBounds(entry: Entry<RuleSource>, known: KnownIds, findings: Findings): void {
  if (entry.value.total !== undefined) findings.known(entry, ["total"], "stat", entry.value.total, known.stat);
  for (const key of ["atLeast", "atMost"] as const) {
    const bound = entry.value[key];
    if (typeof bound !== "object") continue;
    if (entry.value.count !== undefined) findings.report(entry, [key], "bound-of-count");
    findings.known(entry, [key, "stat"], "stat", bound.stat, known.stat);
  }
}

/** Finds ids of a condition that name nothing. */
export function checkCondition(
  entry: Entry<unknown>,
  keys: readonly (string | number)[],
  condition: Condition,
  known: KnownIds,
  findings: Findings,
): void {
  switch (condition.kind) {
    case "any":
    case "all":
      for (const [number, each] of condition.of.entries()) {
        checkCondition(entry, [...keys, condition.kind, number], each, known, findings);
      }
      return;
    case "not":
      checkCondition(entry, [...keys, "not"], condition.of, known, findings);
      return;
    case "fact":
    case "signal":
      return;
    default:
      findings.known(entry, keys, condition.kind, condition.id, known[condition.kind]);
  }
}
