import { link, rename, rm, stat } from "node:fs/promises";
import { dirname, join } from "node:path";
import { MantleError } from "../core/base/problem.ts";
import { reasonOf } from "./file-error.ts";
import { draftOf, makeFolder, syncFolder, writeFileWhole } from "./write-file-whole.ts";

/** A file to write, by its path in a folder. */
export interface NewFile {
  readonly path: string;
  readonly content: string | Uint8Array;
  /** Whether it is named by its content: one that is there already is the same, and stays. */
  readonly isShared?: boolean;
}

/**
 * Writes several files into a folder, all or none: each is written whole beside its place first, and when one cannot be put there, those
 * that were are taken back, and what they replaced is put back. Folders are made when missing.
 *
 * @throws MantleError `file-taken` for one that is there and must not be replaced; `unwritable-file`, naming the file.
 */
export async function writeFiles(
  folder: string,
  files: readonly NewFile[],
  { replace = false }: { readonly replace?: boolean } = {},
): Promise<void> {
  const wanted: NewFile[] = [];
  for (const file of files) {
    const isTaken = await isThere(join(folder, file.path));
    if (isTaken && file.isShared) continue;
    if (isTaken && !replace)
      throw new MantleError("file-taken", `There is a file ${file.path} in ${folder} already. Nothing was written.`);
    wanted.push(file);
  }
  const undo: (() => Promise<void>)[] = [];
  /** What was replaced, until all is written. */
  const replaced: string[] = [];
  try {
    const drafts = [];
    for (const { path, content } of wanted) {
      const target = join(folder, path);
      const made = await makeFolder(dirname(target));
      if (made !== undefined) undo.unshift(() => rm(made, { recursive: true, force: true }));
      const draft = draftOf(target);
      undo.unshift(() => rm(draft, { force: true }));
      await writeFileWhole(draft, content);
      drafts.push({ draft, target });
    }
    for (const { draft, target } of drafts) {
      const before = draftOf(target);
      const isReplaced = await isThere(target);
      if (isReplaced) {
        await link(target, before);
        undo.unshift(() => rm(before, { force: true }));
        replaced.push(before);
      }
      await rename(draft, target);
      undo.unshift(() => (isReplaced ? rename(before, target) : rm(target, { force: true })));
    }
    for (const each of new Set(drafts.map(({ target }) => dirname(target)))) await syncFolder(each);
  } catch (error) {
    for (const step of undo) await step();
    if (error instanceof MantleError) throw error;
    throw new MantleError("unwritable-file", `The files cannot be written: ${reasonOf(error)}. Nothing was changed.`);
  }
  for (const path of replaced) await rm(path, { force: true });
}

async function isThere(path: string): Promise<boolean> {
  return stat(path).then(
    () => true,
    (error: NodeJS.ErrnoException) => {
      if (error.code === "ENOENT") return false;
      throw error;
    },
  );
}
