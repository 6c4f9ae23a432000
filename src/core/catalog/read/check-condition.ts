import { kindOfCondition } from "../conditions/condition-kinds.ts";
import type { Condition } from "../model/catalog.ts";
import type { Findings, Known } from "./findings.ts";
import type { Entry, Sources } from "./source.ts";

/** The ids that rules can name. */
export type KnownIds = Readonly<Record<"part" | "tag" | "slot" | "body" | "outfit" | "stat", Known>>;

/** Gathers the ids that rules can name; a stat is one that the catalog names, a body has, or a part or a rule gives. */
export function idsForRules(sources: Sources): KnownIds {
  const tags = new Set<string>();
  const stats = new Set(sources.stats.keys());
  for (const { value } of sources.bodies.values()) for (const stat in value.stats) stats.add(stat);
  for (const { value } of sources.parts.values()) {
    for (const tag of value.tags ?? []) tags.add(tag);
    for (const stat in value.gives) stats.add(stat);
  }
  for (const { value } of sources.rules) for (const stat in value.gives) stats.add(stat);
  return {
    part: sources.parts,
    slot: sources.slots,
    body: sources.bodies,
    outfit: sources.outfits,
    tag: tags,
    stat: stats,
  };
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
    default: {
      const noun = kindOfCondition(condition).names;
      if (noun !== undefined) findings.known(entry, keys, noun, condition.id, known[noun]);
    }
  }
}
