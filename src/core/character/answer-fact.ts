import { without } from "../record.ts";
import type { Character } from "./character.ts";
import type { Edit, EditResult } from "./edit.ts";

/** Keeps an answer of the game's own in the character, or forgets it. */
export function answerFact(character: Character, { fact, value }: Extract<Edit, { fact: string }>): EditResult {
  const facts = value === null ? without(character.facts, fact) : { ...character.facts, [fact]: value };
  return { ok: true, character: { ...character, facts }, displaced: [] };
}
