import { getOrInsert } from "../base/get-or-insert.ts";
import { shorten } from "../base/limits.ts";
import { getOwn } from "../base/record.ts";
import type { Catalog } from "../catalog/model/catalog.ts";
import type { LoadoutProblem } from "../character/edit.ts";
import { loadoutProblem } from "../character/refuse.ts";

/** Answers that a game keeps besides those that its catalog gives: by id, what each may be, or `"any"`. */
export type Answers = Readonly<Record<string, readonly string[] | "any">>;

/**
 * What is wrong with an answer that a stranger gives, if anything is: neither steps, presets and cues of the catalog give it, nor does the
 * game allow it besides.
 */
export function factProblem(
  catalog: Catalog,
  fact: string,
  value: string,
  answers: Answers,
): LoadoutProblem | undefined {
  const known = getOrInsert(givenFacts, catalog, () => factsOf(catalog)).get(fact);
  const extra = getOwn(answers, fact);
  if (extra === "any" || extra?.includes(value) === true || known?.has(value) === true) return undefined;
  const about = { subject: { kind: "fact", id: fact }, at: ["facts", fact] } as const;
  const isKnown = extra !== undefined || known !== undefined;
  const params = { fact: shorten(fact), value: shorten(value) };
  return loadoutProblem(isKnown ? "answer-not-offered" : "unknown-fact", { ...about, params });
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
