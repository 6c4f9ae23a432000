import { limits } from "../../base/limits.ts";
import { without } from "../../base/record.ts";
import type { Character } from "../../character/character.ts";
import type { EditResult, Edits } from "../../character/edit.ts";
import { loadoutProblem, refuse } from "../../character/refuse.ts";
import type { VerbModule } from "../verb.ts";

/** Keeps an answer of the game's own in the character, or forgets it; one that is longer than answers may be is refused. */
export function answerFact(character: Character, { fact, value }: Edits["fact"]): EditResult {
  const count = Math.max(fact.length, value?.length ?? 0);
  if (count > limits.answerLength) {
    const about = { subject: { kind: "fact", id: fact.slice(0, 40) }, at: ["facts"] } as const;
    const params = { count, max: limits.answerLength };
    return refuse(character, loadoutProblem("answer-too-long", { ...about, params }));
  }
  const facts = value === null ? without(character.facts, fact) : { ...character.facts, [fact]: value };
  return { ok: true, character: { ...character, facts }, displaced: [] };
}

/** The verb `fact`. */
export const factVerb: VerbModule<"fact"> = {
  apply: (edit, { character }) => answerFact(character, edit),
};
