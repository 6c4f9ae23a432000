import type { Character } from "./character.ts";
import type { Edit, EditResult } from "./edit.ts";
import { countGraphemes, nameLimit, tidyName } from "./name.ts";
import { characterProblem, refuse } from "./refuse.ts";

/** Gives a character a name, tidied. */
export function rename(character: Character, edit: Extract<Edit, { rename: string }>): EditResult {
  const name = tidyName(edit.rename);
  const length = countGraphemes(name);
  if (length > nameLimit) {
    const because = `The name "${name}" has ${length} letters; ${nameLimit} is the most.`;
    return refuse(
      character,
      characterProblem("name-too-long", ["name"], because, { say: `Leave out ${length - nameLimit}.` }),
    );
  }
  return { ok: true, character: { ...character, name }, displaced: [] };
}
