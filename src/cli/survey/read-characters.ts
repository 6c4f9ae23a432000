import { readdir } from "node:fs/promises";
import { join } from "node:path";
import { MantleError } from "../../core/base/problem.ts";
import type { Character } from "../../core/character/character.ts";
import { readCharacter } from "../../core/character/read-character.ts";
import { readSave } from "../../core/save/saves.ts";
import { reasonOf } from "../../node/file-error.ts";
import { fileStore } from "../../node/file-store.ts";
import { readCharacterFile } from "../character-file.ts";

/** The characters in a folder, and what in it could not be read as one. */
export interface ReadCharacters {
  readonly characters: readonly Character[];
  readonly unread: readonly string[];
}

/**
 * Reads every character in a folder: the saves of a file store, and files of characters.
 *
 * @throws MantleError `unreadable-file` when the folder cannot be read.
 */
export async function readCharacters(folder: string): Promise<ReadCharacters> {
  const entries = await readdir(folder, { withFileTypes: true }).catch((error: unknown) => {
    throw new MantleError("unreadable-file", `${folder} cannot be read: ${reasonOf(error)}. Name a folder of saves.`);
  });
  const characters: Character[] = [];
  const unread: string[] = [];
  const store = fileStore(folder);
  for (const key of (await store.list()).keys) {
    const { content, kind } = await readSave(store, key);
    // A profile is a save, too, and nobody's character.
    if (content !== undefined && kind !== "character") continue;
    const { character } = readCharacter(content);
    if (character === undefined) unread.push(key);
    else characters.push(character);
  }
  for (const { name } of entries.filter((entry) => entry.isFile() && entry.name.endsWith(".json"))) {
    try {
      characters.push(await readCharacterFile(join(folder, name)));
    } catch (error) {
      if (!(error instanceof MantleError)) throw error;
      unread.push(name);
    }
  }
  const order = new Intl.Collator("en", { numeric: true });
  return { characters: characters.sort((one, other) => order.compare(one.id, other.id)), unread };
}
