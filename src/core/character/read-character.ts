import { beyondLimits, limits, parseText, shorten } from "../base/limits.ts";
import { type Message, message } from "../base/message.ts";
import { firstFindings, type Problem, pointerTo } from "../base/problem.ts";
import type { Path } from "../base/schema/bounds.ts";
import { checkForm } from "../base/schema/check-form.ts";
import type { Mismatch } from "../base/schema/find-mismatches.ts";
import * as f from "../base/schema/forms.ts";
import { quickCheck } from "../base/schema/quick-check.ts";
import type { Character } from "./character.ts";
import { characterIdForm, longestCharacterId } from "./make-id.ts";

const answer = f.string(f.maxLength(limits.answerLength));
const ids = f.record(answer, answer);
const stack = f.number(f.whole, f.min(1), f.max(limits.stack));

const characterSchema = f.object({
  mantle: f.literal("character/1"),
  id: f.string(f.pattern(characterIdForm), f.maxLength(longestCharacterId)),
  name: f.string(f.maxLength(limits.nameLength)),
  catalog: f.object({ id: answer, version: answer, packs: f.optional(ids) }),
  body: answer,
  loadout: ids,
  colors: ids,
  bag: f.record(answer, f.array(stack, f.minLength(1), f.maxLength(limits.stacks))),
  facts: ids,
  concealed: f.optional(f.object({ by: answer, gear: ids })),
});

/** What reading a character gives: the character, or what is wrong with its form. */
export type CharacterReading =
  | { readonly character: Character; readonly problems: readonly [] }
  | { readonly character: undefined; readonly problems: readonly Problem[] };

/**
 * Reads a character from parsed JSON. Only its form is judged; `judgeCharacter` judges everything of one from a stranger.
 *
 * @returns the character, or what is wrong with its form: a hundred findings, and the number of the others. Never throws for bad content.
 */
export function readCharacter(source: unknown): CharacterReading {
  const beyond = beyondLimits(source, limits.saveLength);
  return beyond === undefined ? readForm(source) : { character: undefined, problems: [problemAt([], beyond)] };
}

/** Reads a character from JSON whose text is no longer than texts of characters may be. Never throws. */
export function readCharacterText(text: string): CharacterReading {
  const source = parseText(text, limits.characterLength);
  if (!source.ok) return { character: undefined, problems: [problemAt([], source.reason)] };
  // What has the form of a character is within the other limits too.
  return hasForm(source.value) ? { character: source.value, problems: [] } : readCharacter(source.value);
}

function readForm(source: unknown): CharacterReading {
  if (hasForm(source)) return { character: source, problems: [] };
  const { mismatches, beyond, more } = checkForm(characterSchema, source);
  const problems = [...mismatches.map(formProblem), ...beyond.map(({ path, reason }) => problemAt(path, reason))];
  if (problems.length > 0) return { character: undefined, problems: firstFindings(problems, more) };
  return { character: source as Character, problems: [] };
}

function hasForm(source: unknown): source is Character {
  return isCharacter(source);
}

const isCharacter = quickCheck(characterSchema);

function formProblem({ code, path, params }: Mismatch): Problem {
  if (code === "unknown-key")
    return problemAt(path, message("keys-of-no-character", { keys: [params["key"]].map(String) }));
  if (code === "unknown-keys") return problemAt(path, message("keys-of-no-character", { keys: params["keys"] ?? [] }));
  if (path.length === 0) return problemAt(path, message("no-form-of-character"));
  return problemAt(path, message("value-of-no-character", { path: shorten(path.join(".")) }));
}

function problemAt(path: Path, reason: Message): Problem {
  return {
    code: "not-a-character",
    params: { reason },
    severity: "error",
    place: { pointer: pointerTo(...path.map((key) => (typeof key === "string" ? shorten(key) : key))) },
    fixes: [{ code: "mend-not-a-character", params: {} }],
  };
}
