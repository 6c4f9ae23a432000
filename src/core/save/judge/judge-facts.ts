import { getOrInsert } from "../../base/get-or-insert.ts";
import { shorten } from "../../base/limits.ts";
import { getOwn } from "../../base/record.ts";
import type { Catalog } from "../../catalog/model/catalog.ts";
import type { Character } from "../../character/character.ts";
import { loadoutProblem } from "../../character/refuse.ts";
import type { JudgeContext, Report } from "./judge-context.ts";

/** Answers against what steps, presets and cues of the catalog give, and what the game allows besides. */
export function judgeFacts(
  catalog: Catalog,
  { facts }: Character,
  { facts: allowed = {} }: JudgeContext,
  report: Report,
): void {
  const given = getOrInsert(givenFacts, catalog, () => factsOf(catalog));
  for (const fact in facts) {
    const value = facts[fact] ?? "";
    const extra = getOwn(allowed, fact);
    const known = given.get(fact);
    if (extra === "any" || extra?.includes(value) === true || known?.has(value) === true) continue;
    const about = { subject: { kind: "fact", id: fact }, at: ["facts", fact] } as const;
    const params = { fact: shorten(fact), value: shorten(value) };
    const isKnown = extra !== undefined || known !== undefined;
    report(() => loadoutProblem(isKnown ? "answer-not-offered" : "unknown-fact", { ...about, params }));
  }
}

const givenFacts = new WeakMap<Catalog, ReadonlyMap<string, ReadonlySet<string>>>();

/** By fact, every answer that anything of a catalog gives. */
function factsOf({ creation, presets, cues }: Catalog): ReadonlyMap<string, ReadonlySet<string>> {
  const given = new Map<string, Set<string>>();
  const give = (fact: string, value: string) => getOrInsert(given, fact, () => new Set<string>()).add(value);
  for (const { asks } of creation?.steps.values() ?? []) {
    if (asks.kind === "fact") for (const { id } of asks.from) give(asks.fact, id);
  }
  for (const { facts } of presets.values()) for (const [fact, value] of Object.entries(facts)) give(fact, value);
  for (const cue of [...cues.values()].flat()) {
    for (const action of cue.does) if ("fact" in action && action.value !== null) give(action.fact, action.value);
  }
  return given;
}
