import type { Catalog } from "../../catalog/model/catalog.ts";
import type { Character } from "../../character/character.ts";
import { factProblem } from "../../edits/given-facts.ts";
import type { JudgeContext, Report } from "./judge-context.ts";

/** Answers against what steps, presets and cues of the catalog give, and what the game allows besides. */
export function judgeFacts(
  catalog: Catalog,
  { facts }: Character,
  { answers = {} }: JudgeContext,
  report: Report,
): void {
  for (const fact in facts) {
    const problem = factProblem(catalog, fact, facts[fact] ?? "", answers);
    if (problem !== undefined) report(() => problem);
  }
}
