import { randomBytes } from "node:crypto";
import { type FileHandle, open, realpath, rename, rm, stat } from "node:fs/promises";
import { dirname } from "node:path";

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
  await replaceFile(target, content, (draft) => rename(draft, target));
}

/**
 * Writes a draft beside a file, whole and flushed, and lets it be put in place; the folder is flushed after.
 *
 * @param place - renames the draft, and whatever else has to move first.
 */
export async function replaceFile(
  target: string,
  content: string | Uint8Array,
  place: (draft: string) => Promise<void>,
): Promise<void> {
  const bytes = typeof content === "string" ? Buffer.from(content) : content;
  const draft = `${target}.${process.pid}-${randomBytes(6).toString("hex")}.draft`;
  try {
    const mode = await modeOf(target);
    const file = await open(draft, "wx");
    try {
      await writeAll(file, bytes);
      if (mode !== undefined) await file.chmod(mode);
      await file.sync();
      const { size } = await file.stat();
      if (size !== bytes.length) throw diskFull(draft);
    } finally {
      await file.close();
    }
    await place(draft);
  } catch (error) {
    await rm(draft, { force: true });
    throw error;
  }
  await syncFolder(dirname(target));
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

/** A rename is on the disk once its folder is. Windows has no way to flush a folder, and needs none. */
async function syncFolder(folder: string): Promise<void> {
  if (process.platform === "win32") return;
  const opened = await open(folder, "r");
  try {
    await opened.sync();
  } finally {
    await opened.close();
  }
}
