import { createHash, randomBytes } from "node:crypto";
import { type FileHandle, mkdir, open, readdir, realpath, rename, rm, stat } from "node:fs/promises";
import { hostname } from "node:os";
import { basename, dirname, join } from "node:path";

/**
 * Writes a file whole or not at all: what was there before stays until every byte of the new content is on the disk.
 *
 * The content goes to a draft beside the file, is flushed and measured, and takes the file's place in one step that is flushed
 * too. A link is followed, and the file keeps its mode.
 *
 * @throws the system's error, `ENOSPC` on a full disk among them; the file is then as it was, and the draft is gone.
 */
export async function writeFileWhole(path: string, content: string | Uint8Array): Promise<void> {
  const target = await realpath(path).catch(() => path);
  await withDraft(target, content, (draft) => rename(draft, target), await modeOf(target));
  const folder = dirname(target);
  await syncFolder(folder);
  const ownDrafts = (name: string) => name.startsWith(`${basename(target)}.`);
  await removeDeadDrafts(folder, (await readdir(folder)).filter(ownDrafts));
}

/**
 * Writes a draft beside a file, whole, flushed and measured, before it is put in its place.
 *
 * @param place - what to do with the draft; where that fails, the draft is removed.
 */
export async function withDraft(
  target: string,
  content: string | Uint8Array,
  place: (draft: string) => Promise<void>,
  mode?: number,
): Promise<void> {
  const bytes = typeof content === "string" ? Buffer.from(content) : content;
  const draft = draftOf(target);
  const file = await open(draft, "wx");
  let closing: Promise<void> | undefined;
  try {
    await writeAll(file, bytes);
    if (mode !== undefined) await file.chmod(mode);
    const [{ size }] = await Promise.all([file.stat(), file.sync()]);
    if (size !== bytes.length) throw diskFull(draft);
    closing = file.close();
    await Promise.all([place(draft), closing]);
  } catch (error) {
    await (closing ?? file.close()).finally(() => rm(draft, { force: true }));
    throw error;
  }
}

/** A name for a draft of a file, beside it. */
export function draftOf(target: string): string {
  return `${target}.${machine}-${process.pid}-${randomBytes(6).toString("hex")}.draft`;
}

/** A few letters for this machine, since folders may be shared and numbers of programs are each machine's own. */
const machine = createHash("sha256").update(hostname()).digest("hex").slice(0, 6);

/** How old another machine's draft must be to be removed, in milliseconds. */
const oldest = 24 * 3_600_000;

/** Removes the drafts that killed programs left in a folder. @param names - what is in the folder. */
export async function removeDeadDrafts(folder: string, names: readonly string[]): Promise<void> {
  for (const name of names) {
    const [, by, pid] = /\.([0-9a-f]{6})-(\d+)-[0-9a-f]{12}\.draft$/.exec(name) ?? [];
    if (by === undefined) continue;
    const path = join(folder, name);
    const isDead = by === machine ? !isRunning(Number(pid)) : await isOlderThan(path, oldest);
    if (isDead) await rm(path, { force: true });
  }
}

async function isOlderThan(path: string, milliseconds: number): Promise<boolean> {
  const found = await stat(path).catch(() => undefined);
  return found !== undefined && Date.now() - found.mtimeMs > milliseconds;
}

function isRunning(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return Object(error).code === "EPERM";
  }
}

/**
 * Makes a folder, and those above it that are missing.
 *
 * Node's own way never ends where a file system says that there is no such place although the one above it is there, as `/proc` does.
 *
 * @returns the uppermost folder that was made; `undefined` when it was there.
 */
export async function makeFolder(path: string): Promise<string | undefined> {
  try {
    await mkdir(path);
    return path;
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    const above = dirname(path);
    if (code === "EEXIST" && (await stat(path)).isDirectory()) return undefined;
    if (code !== "ENOENT" || above === path) throw error;
    const made = await makeFolder(above);
    await mkdir(path).catch((again: NodeJS.ErrnoException) => {
      // Made by somebody else meanwhile.
      if (again.code !== "EEXIST") throw again;
    });
    return made ?? path;
  }
}

async function modeOf(path: string): Promise<number | undefined> {
  const found = await stat(path).catch((error: NodeJS.ErrnoException) => {
    if (error.code === "ENOENT") return undefined;
    throw error;
  });
  return found === undefined ? undefined : found.mode & 0o7777;
}

/** A system may write fewer bytes than it was given, and say so only by the count. */
async function writeAll(file: FileHandle, bytes: Uint8Array): Promise<void> {
  for (let at = 0; at < bytes.length; ) {
    const { bytesWritten } = await file.write(bytes, at);
    if (bytesWritten === 0) throw diskFull("the file");
    at += bytesWritten;
  }
}

function diskFull(path: string): NodeJS.ErrnoException {
  return Object.assign(new Error(`ENOSPC: no space left on device, write '${path}'`), { code: "ENOSPC" });
}

/** A folder that can be flushed: what was named in it is on the disk then. */
export type OpenFolder = Pick<FileHandle, "sync" | "close">;

/** Opens a folder to flush it. Windows has no way to flush one, and needs none. */
export async function openFolder(folder: string): Promise<OpenFolder> {
  const nothing = async () => {};
  return process.platform === "win32" ? { sync: nothing, close: nothing } : open(folder, "r");
}

/** Flushes a folder. */
export async function syncFolder(folder: string): Promise<void> {
  const opened = await openFolder(folder);
  await opened.sync().finally(() => opened.close());
}
