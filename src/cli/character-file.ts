import { readFile, stat } from "node:fs/promises";
import { basename, dirname } from "node:path";
import { limits, parseWithin } from "../core/base/limits.ts";
import { MantleError } from "../core/base/problem.ts";
import type { Character } from "../core/character/character.ts";
import { readCharacter } from "../core/character/read-character.ts";
import { readSave, writeSave } from "../core/save/saves.ts";
import { decodeSave, encodeSave } from "../core/save/seal.ts";
import { reasonOf } from "../node/file-error.ts";
import { fileStore, keyOf } from "../node/file-store.ts";
import { say } from "./output.ts";
import { writeOutput } from "./write-output.ts";

/** A character where it was found. */
export interface CharacterFile {
  readonly character: Character;
  /** Puts another in its place, in the same form: a plain document, a sealed file, or a new generation of a save. */
  replace(character: Character): Promise<void>;
}

/**
 * Reads a character from a file, or from the folder that a file store keeps its save in; from standard input where the path is `-`.
 *
 * @throws MantleError `unreadable-file`, `damaged-save` or `not-a-character`, naming the file.
 */
export async function openCharacterFile(path: string): Promise<CharacterFile> {
  if (path === "-") return openText("What came from standard input", await standardInput(), cannotReplace);
  const found = await stat(path).catch((error: unknown) => {
    throw new MantleError("unreadable-file", `${path} cannot be read: ${reasonOf(error)}. Name a character's file.`);
  });
  if (found.isDirectory()) return openSaved(path);
  if (!found.isFile() || found.size > limits.saveLength * 3)
    throw new MantleError("unreadable-file", `${path} is no file of a character's size. Name a character's file.`);
  return openFile(path);
}

/** Reads a character from a file, or from the folder of its save. @throws as `openCharacterFile` does. */
export async function readCharacterFile(path: string): Promise<Character> {
  return (await openCharacterFile(path)).character;
}

/** Opens the save that a file store keeps in a folder of its own. */
async function openSaved(path: string): Promise<CharacterFile> {
  const key = keyOf(basename(path));
  const store = fileStore(dirname(path));
  if (key === undefined || (await store.read(key)).length === 0)
    throw new MantleError(
      "unreadable-file",
      `${path} holds no save. Name a character's file, or the folder of a save.`,
    );
  const { content, revision, problems } = await readSave(store, key, "character");
  // An older generation is used only where it is asked for.
  const wrong = problems.filter((problem) => problem.code !== "missing-generation");
  if (content === undefined || wrong.length > 0) {
    const advice = `To use another generation, name its file in ${path}.`;
    throw new MantleError(
      "damaged-save",
      [`The newest save in ${path} cannot be used.`, ...wrong.map(say), advice].join("\n"),
    );
  }
  return {
    character: characterOf(content, path),
    replace: async (character) =>
      void (await writeSave(store, key, "character", { ...character }, { after: revision })),
  };
}

async function openFile(path: string): Promise<CharacterFile> {
  return openText(path, await readFile(path, "utf8"), (content) => writeOutput(path, content));
}

/** All of standard input, as far as a save may be long. */
async function standardInput(): Promise<string> {
  let text = "";
  for await (const chunk of process.stdin.setEncoding("utf8")) {
    text += String(chunk);
    if (text.length > limits.saveLength) break;
  }
  return text;
}

function cannotReplace(): never {
  throw new MantleError(
    "bad-call",
    "A character that came from standard input is in no file. Name a file to change it.",
  );
}

/** Opens what a file holds. @param replace - writes something else in its place. */
function openText(path: string, text: string, replace: (content: string) => Promise<void>): CharacterFile {
  const parsed = parseWithin(text, limits.saveLength);
  if (!parsed.ok)
    throw new MantleError(
      "not-a-character",
      `${path} is not a character. ${say(parsed.reason)} Write characters with mantle roll --out, or with the library.`,
    );
  const { value } = parsed;
  if (typeof value !== "object" || value === null || !("seal" in value))
    return {
      character: characterOf(value, path),
      replace: (character) => replace(`${JSON.stringify(character, null, 2)}\n`),
    };
  const opened = decodeSave(text, "character");
  if (!opened.ok) throw new MantleError("damaged-save", `${path} cannot be used. ${say(opened.reason)}`);
  return {
    character: characterOf(opened.content, path),
    replace: (character) => replace(encodeSave("character", { ...character }, opened.address)),
  };
}

function characterOf(content: unknown, path: string): Character {
  const { character, problems } = readCharacter(content);
  if (character !== undefined) return character;
  const reasons = problems.slice(0, 3).map(say);
  const more = problems.length > 3 ? [`There are ${problems.length - 3} more such findings.`] : [];
  const advice = "Write characters with mantle roll --out, or with the library.";
  throw new MantleError(
    "not-a-character",
    [`${path} is not a character.`, ...reasons, ...more, advice].join("\n"),
    problems,
  );
}
