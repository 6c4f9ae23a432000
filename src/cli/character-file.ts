import { readFile } from "node:fs/promises";
import type { Character } from "../core/character/character.ts";
import { readCharacter } from "../core/character/read-character.ts";
import { MantleError } from "../core/problem.ts";
import { openSave } from "../core/save/seal.ts";
import { reasonOf } from "../node/file-error.ts";

/**
 * Reads a character from a file: a plain document, as `mantle roll` writes it, or a save of one.
 *
 * @throws MantleError `unreadable-file`, `damaged-save` or `not-a-character`, naming the file.
 */
export async function readCharacterFile(path: string): Promise<Character> {
  const text = await readFile(path, "utf8").catch((error: unknown) => {
    throw new MantleError("unreadable-file", `${path} cannot be read: ${reasonOf(error)}. Name a character's file.`);
  });
  const reading = readCharacter(contentOf(text, path));
  if (reading.character !== undefined) return reading.character;
  const reasons = reading.problems.slice(0, 3).map(({ because }) => because);
  const more = reading.problems.length > 3 ? [`There are ${reading.problems.length - 3} more such findings.`] : [];
  const advice = "Write characters with mantle roll --out, or with the library.";
  throw new MantleError(
    "not-a-character",
    [`${path} is not a character.`, ...reasons, ...more, advice].join("\n"),
    reading.problems,
  );
}

function contentOf(text: string, path: string): unknown {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw new MantleError(
      "not-a-character",
      `${path} is not JSON. Write characters with mantle roll --out, or with the library.`,
    );
  }
  if (typeof value !== "object" || value === null || !("seal" in value)) return value;
  const opened = openSave(text, "character");
  if (opened.ok) return opened.content;
  throw new MantleError("damaged-save", `${path} cannot be used. ${opened.because}`);
}
