import { constants, type Stats } from "node:fs";
import { type FileHandle, open, realpath } from "node:fs/promises";
import { join, sep } from "node:path";
import { MantleError } from "../core/problem.ts";
import { reasonOf } from "./file-error.ts";

/** Whether a path, or a pattern of paths, is one inside a folder by its form: `parts/hat.png`. */
export function isInside(path: string): boolean {
  if (path === "" || path.startsWith("/") || /[\\\0]|^[a-z]:/i.test(path)) return false;
  return !path.split("/").includes("..");
}

/**
 * The real path of a file in a folder that may come from a stranger, wherever links lead; `undefined` when there is no such file.
 *
 * @throws MantleError `unreadable-file` for one outside the folder.
 */
export async function pathInFolder(folder: string, path: string): Promise<string | undefined> {
  if (!isInside(path)) throw unreadable(path, outside);
  try {
    const [root, real] = await Promise.all([realpath(folder), realpath(join(folder, path))]);
    if (real === root || real.startsWith(root.endsWith(sep) ? root : root + sep)) return real;
  } catch (error) {
    if (Object(error).code === "ENOENT") return undefined;
    throw unreadable(path, reasonOf(error));
  }
  throw unreadable(path, outside);
}

/** How many bytes files may have together; what is read is taken off. */
export interface Allowance {
  bytes: number;
}

/**
 * Reads a file of such a folder: only a regular one, and only of a size that is left.
 *
 * @returns `undefined` when there is no such file.
 * @throws MantleError `unreadable-file`, naming the file.
 */
export async function readInFolder(folder: string, path: string, allowance: Allowance): Promise<Buffer | undefined> {
  return withFile(folder, path, async (file, { size }) => {
    if (size > allowance.bytes)
      throw unreadable(path, `it has ${size} bytes, and no more than ${allowance.bytes} may be`);
    allowance.bytes -= size;
    return file.readFile();
  });
}

/** The first bytes of a file of such a folder, as far as there are so many. @throws as `readInFolder` does. */
export async function readHeadInFolder(folder: string, path: string, count: number): Promise<Buffer | undefined> {
  return withFile(folder, path, async (file) => {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(count), 0, count, 0);
    return buffer.subarray(0, bytesRead);
  });
}

async function withFile<T>(
  folder: string,
  path: string,
  act: (file: FileHandle, found: Stats) => Promise<T>,
): Promise<T | undefined> {
  const real = await pathInFolder(folder, path);
  if (real === undefined) return undefined;
  try {
    // Nothing is waited for, and no link followed, where somebody puts another thing in its place meanwhile.
    const file = await open(real, constants.O_RDONLY | (constants.O_NOFOLLOW ?? 0) | (constants.O_NONBLOCK ?? 0));
    try {
      const found = await file.stat();
      if (found.isDirectory()) throw unreadable(path, "it is a folder");
      if (!found.isFile()) throw unreadable(path, "it is not a regular file");
      return await act(file, found);
    } finally {
      await file.close();
    }
  } catch (error) {
    throw error instanceof MantleError ? error : unreadable(path, reasonOf(error));
  }
}

const outside = "it leads out of the catalog folder";

function unreadable(path: string, reason: string): MantleError {
  return new MantleError("unreadable-file", `${path} cannot be read: ${reason}.`);
}
