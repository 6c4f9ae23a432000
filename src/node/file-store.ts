import { mkdir, readdir, readFile, rename, rm } from "node:fs/promises";
import { join } from "node:path";
import type { Store } from "../core/save/store.ts";
import { replaceFile, writeFileWhole } from "./write-file-whole.ts";

const current = ".save.json";
const previous = ".previous.json";

/**
 * A store in a folder, made when missing: each key has a file for its newest generation and one for the generation before.
 *
 * Files are replaced whole (written beside, flushed, measured, renamed), so an interruption at any moment, or a full disk, leaves a
 * whole one.
 */
export function fileStore(folder: string): Store {
  const pathOf = (key: string, ending: string) => join(folder, fileName(key) + ending);
  return {
    async read(key) {
      const texts = await Promise.all([readIfThere(pathOf(key, current)), readIfThere(pathOf(key, previous))]);
      return texts.filter((text) => text !== undefined);
    },
    async write(key, [newest, before]) {
      await mkdir(folder, { recursive: true });
      const path = pathOf(key, current);
      const isCurrent = before !== undefined && (await readIfThere(path)) === before;
      if (before !== undefined && !isCurrent) await writeFileWhole(pathOf(key, previous), before);
      if (newest === undefined) return;
      await replaceFile(path, newest, async (draft) => {
        // Never copied: between the two steps the generation before is there, whole.
        if (isCurrent) await rename(path, pathOf(key, previous));
        await rename(draft, path);
      });
    },
    async list() {
      const files = await readdir(folder).catch(noneIfMissing);
      const keys = files.filter((file) => file.endsWith(current) || file.endsWith(previous));
      return [
        ...new Set(
          keys.map((file) => keyOf(file.slice(0, file.endsWith(current) ? -current.length : -previous.length))),
        ),
      ].sort();
    },
    async remove(key) {
      await rm(pathOf(key, current), { force: true });
      await rm(pathOf(key, previous), { force: true });
    },
  };
}

/** Lower-case letters, digits and hyphens stand for themselves; every other byte is `%` and two digits, on any file system. */
function fileName(key: string): string {
  return [...new TextEncoder().encode(key)]
    .map((byte) => {
      const letter = String.fromCharCode(byte);
      return /[a-z0-9-]/.test(letter) ? letter : `%${byte.toString(16).padStart(2, "0")}`;
    })
    .join("");
}

function keyOf(name: string): string {
  return decodeURIComponent(name);
}

async function readIfThere(path: string): Promise<string | undefined> {
  return readFile(path, "utf8").catch((error: NodeJS.ErrnoException) => {
    if (error.code === "ENOENT") return undefined;
    throw error;
  });
}

function noneIfMissing(error: NodeJS.ErrnoException): string[] {
  if (error.code === "ENOENT") return [];
  throw error;
}
