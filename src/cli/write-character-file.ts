import { readFile } from "node:fs/promises";
import type { Character } from "../core/character/character.ts";
import { sealSave } from "../core/save/seal.ts";
import { writeOutput } from "./write-output.ts";

/** Writes a character over the file it was read from, in the form it has there: a plain document, or a save. */
export async function writeCharacterFile(path: string, character: Character): Promise<void> {
  const before: unknown = JSON.parse(await readFile(path, "utf8"));
  const isSave = typeof before === "object" && before !== null && "seal" in before;
  await writeOutput(path, isSave ? sealSave("character", { ...character }) : `${JSON.stringify(character, null, 2)}\n`);
}
