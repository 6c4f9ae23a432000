import type { Character } from "./character.ts";
import type { Edit, EditResult } from "./edit.ts";
import { countGraphemes, nameLimit, tidyName } from "./name.ts";
import { fixOf, loadoutProblem, refuse } from "./refuse.ts";
import type { Voice } from "./wording.ts";

/** Gives a character a name, tidied. */
export function rename(voice: Voice, character: Character, edit: Extract<Edit, { rename: string }>): EditResult {
  const name = tidyName(edit.rename);
  const count = countGraphemes(name);
  if (count <= nameLimit) return { ok: true, character: { ...character, name }, displaced: [] };
  const problem = loadoutProblem(voice, "name-too-long", {
    subject: { kind: "name", id: name },
    at: ["name"],
    words: { name, count, most: nameLimit },
    fixes: [fixOf(voice, "leave-out", { count: count - nameLimit })],
  });
  return refuse(character, problem);
}
