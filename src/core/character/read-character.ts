import * as z from "zod/mini";
import { type Problem, pointerTo } from "../problem.ts";
import type { Character } from "./character.ts";
import { characterIdForm, longestCharacterId } from "./make-id.ts";

const ids = z.record(z.string(), z.string());

const characterSchema = z.strictObject({
  mantle: z.literal("character/1"),
  id: z.string().check(z.regex(characterIdForm), z.maxLength(longestCharacterId)),
  name: z.string(),
  catalog: z.strictObject({ id: z.string(), version: z.string() }),
  body: z.string(),
  loadout: ids,
  colors: ids,
  bag: z.record(z.string(), z.array(z.int().check(z.minimum(1))).check(z.minLength(1))),
  facts: ids,
  concealed: z.exactOptional(z.strictObject({ by: z.string(), gear: ids })),
});

/** What reading a character gives: the character, or what is wrong with its form. */
export type CharacterReading =
  | { readonly character: Character; readonly problems: readonly [] }
  | { readonly character: undefined; readonly problems: readonly Problem[] };

/**
 * Reads a character from parsed JSON. Only its form is judged; `checkLoadout` judges it against a catalog.
 *
 * @returns the character, or every problem of its form. Never throws for bad content.
 */
export function readCharacter(source: unknown): CharacterReading {
  const result = characterSchema.safeParse(source);
  if (result.success) return { character: result.data, problems: [] };
  return { character: undefined, problems: result.error.issues.map(formProblem) };
}

function formProblem(issue: z.core.$ZodIssue): Problem {
  const path = issue.path as readonly (string | number)[];
  const what =
    issue.code === "unrecognized_keys"
      ? `The keys ${issue.keys.map((key) => `"${key}"`).join(", ")} are not known here.`
      : `${path.length === 0 ? "The document" : `"${path.join(".")}"`} does not have the form of a character.`;
  return {
    code: "not-a-character",
    severity: "error",
    place: { pointer: pointerTo(...path) },
    because: what,
    fixes: [{ say: "Write characters with the library or with mantle roll." }],
  };
}
