import { constants, type Stats } from "node:fs";
import { copyFile, link, lstat, open, readdir, rm, unlink } from "node:fs/promises";
import { dirname, join, resolve } from "node:path";
import { limits } from "../core/base/limits.ts";
import { MantleError } from "../core/base/problem.ts";
import { conflictError, type Generation, type Store } from "../core/save/store.ts";
import { reasonOf } from "./file-error.ts";
import { makeFolder, openFolder, removeDeadDrafts, syncFolder, withDraft } from "./write-file-whole.ts";

const ending = ".save.json";

/** No character takes more bytes in UTF-8. */
const mostBytes = limits.saveLength * 3;

/**
 * A store in a folder, made when missing: each key has a folder of its own in it, with a file for each generation, `7.save.json`.
 *
 * A generation is written beside the others, flushed and measured, and gets its name in one step that fails where another writer gave
 * that name first. So an interruption at any moment, a full disk, or a second writer leaves whole what was stored.
 */
export function fileStore(folder: string): Store {
  const folderOf = (key: string) => resolve(folder, fileName(key));
  const pathOf = (key: string, revision: number) => join(folderOf(key), `${revision}${ending}`);
  /** By key, the newest revision that was seen. */
  const newest = new Map<string, number>();
  return {
    async read(key) {
      const revisions = revisionsIn(await readdir(folderOf(key)).catch(noneIfMissing));
      newest.set(key, revisions[0] ?? 0);
      return Promise.all(revisions.map((revision) => readGeneration(pathOf(key, revision), revision)));
    },
    async write(key, { revision, text }, keep) {
      const own = folderOf(key);
      const path = pathOf(key, revision);
      if ((newest.get(key) ?? 0) >= revision) throw conflictError(key);
      // The folder is opened while the draft is written, since it is flushed after.
      const [put, opening] = await Promise.allSettled([
        numberedDraft(own, path, key, text, keep.length > 0),
        openFolder(own),
      ]);
      if (put.status === "rejected") {
        if (opening.status === "fulfilled") await opening.value.close();
        throw put.reason;
      }
      const draft = put.value;
      // It was not there when the first save of the key was begun.
      const opened = opening.status === "fulfilled" ? opening.value : await openFolder(own);
      const tidy = () => Promise.all([unlink(draft), opened.close()]);
      const [names] = await Promise.all([readdir(own), opened.sync()]).catch(async (error: unknown) => {
        await tidy();
        throw error;
      });
      const revisions = revisionsIn(names);
      newest.set(key, revisions[0] ?? revision);
      // Others were faster. What was written is older than theirs, and is removed with the next storing.
      const isLate = revisions.some((each) => each > revision);
      const old = revisions.filter((each) => !isLate && each !== revision && !keep.includes(each));
      await Promise.all([tidy(), ...old.map((each) => unlink(pathOf(key, each)))]);
      if (isLate) throw conflictError(key);
      await removeDeadDrafts(own, names);
    },
    async list() {
      const names = (await readdir(folder).catch(noneIfMissing)).filter((name) => !name.startsWith("."));
      const keys: string[] = [];
      const unknown: string[] = [];
      for (const name of names) {
        const key = keyOf(name);
        if (key === undefined || !(await lstat(join(folder, name))).isDirectory()) unknown.push(name);
        else if (await holdsSave(join(folder, name))) keys.push(key);
      }
      return { keys: keys.sort(), unknown: unknown.sort() };
    },
  };
}

/** Whether there is a save in a folder; true also for one that cannot be looked into, since reading it finds that out. */
async function holdsSave(own: string): Promise<boolean> {
  const names = await readdir(own).catch(() => undefined);
  return names === undefined || revisionsIn(names).length > 0;
}

/** The revisions among the names of files, newest first. */
function revisionsIn(names: readonly string[]): readonly number[] {
  return names
    .filter((name) => /^[1-9]\d{0,14}\.save\.json$/.test(name))
    .map((name) => Number(name.slice(0, -ending.length)))
    .sort((one, other) => other - one);
}

/**
 * Writes a draft and gives it its number, in a folder that is made when missing. Returns the draft, which has two names then.
 *
 * @param isLater - there must be a generation, and so a folder, already.
 * @throws MantleError `changed-elsewhere`.
 */
async function numberedDraft(own: string, path: string, key: string, text: string, isLater: boolean): Promise<string> {
  let draft = "";
  const put = () =>
    withDraft(path, text, async (written) => {
      draft = written;
      await claim(written, path, key);
    });
  await put().catch(async (error: NodeJS.ErrnoException) => {
    if (error.code !== "ENOENT") throw error;
    if (isLater) throw conflictError(key);
    await makeOwn(own);
    await put();
  });
  return draft;
}

/** Makes the folder of a key. A folder is on the disk once the one above it is flushed. */
async function makeOwn(own: string): Promise<void> {
  const made = await makeFolder(own);
  if (made !== undefined) for (let at = own; at.length >= made.length; at = dirname(at)) await syncFolder(dirname(at));
}

/**
 * Gives a draft its name. Some file systems have no second names; there the name itself is taken first.
 *
 * @throws MantleError `changed-elsewhere` when the name is taken.
 */
async function claim(draft: string, path: string, key: string): Promise<void> {
  try {
    await link(draft, path).catch((error: NodeJS.ErrnoException) => {
      if (!withoutLinks.has(error.code)) throw error;
      return copyTo(draft, path);
    });
  } catch (error) {
    throw Object(error).code === "EEXIST" ? conflictError(key) : error;
  }
}

/** Copies a file to a name that nothing has, whole and flushed, or not at all. */
async function copyTo(from: string, path: string): Promise<void> {
  await copyFile(from, path, constants.COPYFILE_EXCL).catch(async (error: NodeJS.ErrnoException) => {
    if (error.code !== "EEXIST") await rm(path, { force: true });
    throw error;
  });
  const file = await open(path, "r+");
  await file.sync().finally(() => file.close());
}

const withoutLinks: ReadonlySet<unknown> = new Set(["EPERM", "ENOTSUP", "EOPNOTSUPP", "ENOSYS", "EMLINK"]);

/** Reads a regular file of a size that a save may have; whatever else stands there has a reason instead. */
async function readGeneration(path: string, revision: number): Promise<Generation> {
  try {
    const found = await lstat(path);
    const because = found.isFile() ? tooLarge(found) : `it is ${kindOf(found)}`;
    if (because !== undefined) return { revision, text: undefined, because };
    // Nothing is waited for, and no link followed, where somebody put another thing in its place meanwhile.
    const file = await open(path, constants.O_RDONLY | (constants.O_NOFOLLOW ?? 0) | (constants.O_NONBLOCK ?? 0));
    try {
      return { revision, text: await file.readFile("utf8") };
    } finally {
      await file.close();
    }
  } catch (error) {
    return { revision, text: undefined, because: reasonOf(error) };
  }
}

function tooLarge({ size }: Stats): string | undefined {
  return size > mostBytes ? `it has ${size} bytes; the limit is ${mostBytes}` : undefined;
}

function kindOf(found: Stats): string {
  if (found.isDirectory()) return "a folder";
  return found.isSymbolicLink() ? "a link" : "not a regular file";
}

/** Lower-case letters, digits and hyphens stand for themselves; every other byte is `%` and two digits, on any file system. */
function fileName(key: string): string {
  if (key === "") throw new MantleError("bad-key", "The key of a save has at least one letter.");
  return [...new TextEncoder().encode(key)]
    .map((byte) => {
      const letter = String.fromCharCode(byte);
      return /[a-z0-9-]/.test(letter) ? letter : `%${byte.toString(16).padStart(2, "0")}`;
    })
    .join("");
}

/** The key that has a file name; `undefined` for a name that `fileName` does not make. */
export function keyOf(name: string): string | undefined {
  try {
    const key = decodeURIComponent(name);
    return fileName(key) === name ? key : undefined;
  } catch {
    return undefined;
  }
}

function noneIfMissing(error: NodeJS.ErrnoException): string[] {
  if (error.code === "ENOENT") return [];
  throw error;
}
