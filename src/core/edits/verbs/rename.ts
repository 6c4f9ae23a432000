import { limits } from "../../base/limits.ts";
import type { Character } from "../../character/character.ts";
import type { Context, NameLimits } from "../../character/context.ts";
import type { Edit, EditResult, LoadoutProblem } from "../../character/edit.ts";
import { isOfOneScript, isSeen, lookKeys } from "../../character/look-alike.ts";
import { countGraphemes, nameLimit, tidyName } from "../../character/name.ts";
import { fixOf, loadoutProblem, refuse } from "../../character/refuse.ts";
import type { Voice } from "../../character/wording.ts";

/** Gives a character a name, tidied; one that is too long, taken, or refused by the game is not given. */
export function rename(
  voice: Voice,
  character: Character,
  edit: Extract<Edit, { rename: string }>,
  { names = {} }: Context,
): EditResult {
  const tooWritten = tooManyCharacters(voice, edit.rename);
  if (tooWritten !== undefined) return refuse(character, tooWritten);
  const name = tidyName(edit.rename);
  if (name === character.name) return { ok: true, character, displaced: [] };
  const problem = nameProblem(voice, name, names);
  if (problem !== undefined) return refuse(character, problem);
  return { ok: true, character: { ...character, name }, displaced: [] };
}

/** The problem of a name that takes too much to write: a letter may bear any number of marks, and comparing costs what is written. */
export function tooManyCharacters(voice: Voice, typed: string): LoadoutProblem | undefined {
  if (typed.length <= limits.nameLength) return undefined;
  const words = { count: typed.length, most: limits.nameLength };
  const about = { subject: { kind: "name", id: "" }, at: ["name"], words } as const;
  return loadoutProblem(voice, "name-too-many-characters", { ...about, fixes: [fixOf(voice, "another-name")] });
}

/** Why a tidy name cannot be used, if so. */
export function nameProblem(voice: Voice, name: string, { taken = [], check }: NameLimits): LoadoutProblem | undefined {
  const about = { subject: { kind: "name", id: name }, at: ["name"] } as const;
  const count = countGraphemes(name);
  const most = voice.catalog.names?.longest ?? nameLimit;
  if (count > most) {
    const fixes = [fixOf(voice, "leave-out", { count: count - most })];
    return loadoutProblem(voice, "name-too-long", { ...about, words: { name, count, most }, fixes });
  }
  const fixes = [fixOf(voice, "another-name")];
  if (!isSeen(name)) return loadoutProblem(voice, "name-not-seen", { ...about, fixes });
  if (!isOfOneScript(name)) return loadoutProblem(voice, "name-of-two-scripts", { ...about, fixes });
  const keys = new Set(name === "" || taken.length === 0 ? [] : lookKeys(name));
  if (taken.some((each) => lookKeys(each).some((key) => keys.has(key))))
    return loadoutProblem(voice, "name-taken", { ...about, words: { name }, fixes });
  const refusal = check?.(name);
  if (refusal === undefined) return undefined;
  return loadoutProblem(voice, "name-refused", { ...about, words: { name }, more: [refusal], fixes });
}
