import { limits } from "../../base/limits.ts";
import { authored } from "../../base/message.ts";
import type { Catalog } from "../../catalog/model/catalog.ts";
import type { Character } from "../../character/character.ts";
import type { Context, NameLimits } from "../../character/context.ts";
import type { EditResult, Edits, LoadoutProblem } from "../../character/edit.ts";
import { isOfOneScript, isSeen, lookKeys } from "../../character/look-alike.ts";
import { countGraphemes, nameLimit, normalizeName } from "../../character/name.ts";
import { fixBy, loadoutProblem, refuse } from "../../character/refuse.ts";
import type { VerbModule } from "../verb.ts";

/** Gives a character a name, tidied; one that is too long, taken, or refused by the game is not given. */
export function rename(
  catalog: Catalog,
  character: Character,
  edit: Edits["rename"],
  { names = {} }: Context,
): EditResult {
  const tooWritten = tooManyCharacters(edit.rename);
  if (tooWritten !== undefined) return refuse(character, tooWritten);
  const name = normalizeName(edit.rename);
  if (name === character.name) return { ok: true, character, displaced: [] };
  const problem = nameProblem(catalog, name, names);
  if (problem !== undefined) return refuse(character, problem);
  return { ok: true, character: { ...character, name }, displaced: [] };
}

/** The problem of a name that takes too much to write: a letter may bear any number of marks, and comparing costs what is written. */
export function tooManyCharacters(typed: string): LoadoutProblem | undefined {
  if (typed.length <= limits.nameLength) return undefined;
  const params = { count: typed.length, max: limits.nameLength };
  const about = { subject: { kind: "name", id: "" }, at: ["name"], params } as const;
  return loadoutProblem("name-too-many-characters", { ...about, fixes: [fixBy("another-name")] });
}

/** Why a tidy name cannot be used, if so. */
export function nameProblem(
  catalog: Catalog,
  name: string,
  { taken = [], check }: NameLimits,
): LoadoutProblem | undefined {
  const about = { subject: { kind: "name", id: name }, at: ["name"] } as const;
  const count = countGraphemes(name);
  const most = catalog.names?.longest ?? nameLimit;
  if (count > most) {
    const fixes = [fixBy("leave-out", { count: count - most })];
    return loadoutProblem("name-too-long", { ...about, params: { name, count, max: most }, fixes });
  }
  const fixes = [fixBy("another-name")];
  if (!isSeen(name)) return loadoutProblem("name-not-seen", { ...about, params: {}, fixes });
  if (!isOfOneScript(name)) return loadoutProblem("name-of-two-scripts", { ...about, params: {}, fixes });
  const keys = new Set(name === "" || taken.length === 0 ? [] : lookKeys(name));
  if (taken.some((each) => lookKeys(each).some((key) => keys.has(key))))
    return loadoutProblem("name-taken", { ...about, params: { name }, fixes });
  const refusal = check?.(name);
  if (refusal === undefined) return undefined;
  return loadoutProblem("name-refused", { ...about, params: { name }, more: authored(refusal), fixes });
}

/** The verb `rename`. */
export const renameVerb: VerbModule<"rename"> = {
  apply: (edit, { catalog, character, context }) => rename(catalog, character, edit, context),
};
