import { limits } from "../../base/limits.ts";
import { without } from "../../base/record.ts";
import type { Character } from "../../character/character.ts";
import type { Edit, EditResult } from "../../character/edit.ts";
import { loadoutProblem, refuse } from "../../character/refuse.ts";
import type { Voice } from "../../character/wording.ts";

/** Keeps an answer of the game's own in the character, or forgets it; one that is longer than answers may be is refused. */
export function answerFact(
  voice: Voice,
  character: Character,
  { fact, value }: Extract<Edit, { fact: string }>,
): EditResult {
  const count = Math.max(fact.length, value?.length ?? 0);
  if (count > limits.answerLength) {
    const about = { subject: { kind: "fact", id: fact.slice(0, 40) }, at: ["facts"] } as const;
    const words = { count, most: limits.answerLength };
    return refuse(character, loadoutProblem(voice, "answer-too-long", { ...about, words }));
  }
  const facts = value === null ? without(character.facts, fact) : { ...character.facts, [fact]: value };
  return { ok: true, character: { ...character, facts }, displaced: [] };
}
