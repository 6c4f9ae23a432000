import * as z from "zod/mini";
import { beyondLimits, limits, parseText, shorten } from "../base/limits.ts";
import { firstFindings, type Problem, pointerTo } from "../base/problem.ts";
import { checkForm, type FormIssue } from "../base/schema/check-form.ts";
import { quickCheck } from "../base/schema/quick-check.ts";
import type { Character } from "./character.ts";
import { characterIdForm, longestCharacterId } from "./make-id.ts";

const answer = z.string().check(z.maxLength(limits.answerLength));
const ids = z.record(answer, answer);
const stack = z.int().check(z.minimum(1), z.maximum(limits.stack));

const characterSchema = z.strictObject({
  mantle: z.literal("character/1"),
  id: z.string().check(z.regex(characterIdForm), z.maxLength(longestCharacterId)),
  name: z.string().check(z.maxLength(limits.nameLength)),
  catalog: z.strictObject({ id: answer, version: answer }),
  body: answer,
  loadout: ids,
  colors: ids,
  bag: z.record(answer, z.array(stack).check(z.minLength(1), z.maxLength(limits.stacks))),
  facts: ids,
  concealed: z.exactOptional(z.strictObject({ by: answer, gear: ids })),
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
  if (!source.ok) return { character: undefined, problems: [problemAt([], source.because)] };
  // What has the form of a character is within the other limits too.
  return hasForm(source.value) ? { character: source.value, problems: [] } : readCharacter(source.value);
}

function readForm(source: unknown): CharacterReading {
  if (hasForm(source)) return { character: source, problems: [] };
  const { issues, beyond, more } = checkForm(characterSchema, source);
  const problems = [...issues.map(formProblem), ...beyond.map(({ path, because }) => problemAt(path, because))];
  if (problems.length > 0) return { character: undefined, problems: firstFindings(problems, more) };
  return { character: source as Character, problems: [] };
}

function hasForm(source: unknown): source is Character {
  return isCharacter(source);
}

const isCharacter = quickCheck(characterSchema);

function formProblem(issue: FormIssue): Problem {
  const path = issue.path as readonly (string | number)[];
  if (issue.code === "unrecognized_keys") {
    const keys = issue.keys.slice(0, 3).map((key) => `"${shorten(key)}"`);
    return problemAt(
      path,
      `The keys ${[...keys, ...(issue.keys.length > 3 ? ["…"] : [])].join(", ")} are not known here.`,
    );
  }
  if (path.length === 0) return problemAt(path, "The document does not have the form of a character.");
  return problemAt(path, `"${shorten(path.join("."))}" is missing, or is not what a character has there.`);
}

function problemAt(path: readonly (string | number)[], because: string): Problem {
  return {
    code: "not-a-character",
    severity: "error",
    place: { pointer: pointerTo(...path.map((key) => (typeof key === "string" ? shorten(key) : key))) },
    because,
    fixes: [{ say: "Write characters with the library or with mantle roll." }],
  };
}
