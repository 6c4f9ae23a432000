import { message } from "../core/base/message.ts";
import { MantleError, type Problem } from "../core/base/problem.ts";
import type { Size } from "../core/catalog/model/catalog.ts";
import { type NeededTable, tableOfFiles } from "../core/look/needed-tables.ts";
import { pngSize } from "../core/raster/png/decode-png.ts";
import type { Allowance, CatalogFolder } from "./catalog-folder.ts";
import { readJsonFile } from "./read-json-file.ts";

/** Frames tables by path, as far as they could be read. */
export interface Tables {
  readonly tables: ReadonlyMap<string, unknown>;
  readonly problems: readonly Problem[];
}

export const noTables: Tables = { tables: new Map(), problems: [] };

/** Loads the frames tables that a catalog needs: files of their own, or made of the sizes of files that hold one frame. */
export async function loadTables(
  folder: CatalogFolder,
  needed: readonly NeededTable[],
  allowance: Allowance,
): Promise<Tables> {
  const tables = new Map<string, unknown>();
  const problems: Problem[] = [];
  for (const { path, files } of needed) {
    if (files === undefined) {
      const { value, problems: own } = await readTable(folder, path, allowance);
      problems.push(...own);
      if (value !== undefined) tables.set(path, value);
      continue;
    }
    const sizes = new Map<string, Size>();
    for (const file of files) {
      const size = await sizeOf(folder, file.path);
      if (size !== undefined) sizes.set(file.path, size);
    }
    if (sizes.size === 0) problems.push(missing(path, "missing-frame-files"));
    else tables.set(path, tableOfFiles(files, sizes));
  }
  return { tables, problems };
}

async function readTable(folder: CatalogFolder, path: string, allowance: Allowance): ReturnType<typeof readJsonFile> {
  try {
    if ((await folder.find(path)) === undefined)
      return { value: undefined, problems: [missing(path, "missing-table")] };
    return await readJsonFile(folder, path, allowance);
  } catch (error) {
    if (!(error instanceof MantleError)) throw error;
    const reason = message("unreadable-file", { reason: error.message });
    const fixes = [{ code: "mend-unreadable-file", params: {} }] as const;
    return {
      value: undefined,
      problems: [{ ...reason, severity: "error", place: { file: path, pointer: "" }, fixes }],
    };
  }
}

function missing(file: string, code: "missing-table" | "missing-frame-files"): Problem {
  const fixes = [{ code: `mend-${code}`, params: {} }] as const;
  return { ...message(code, { path: file }), severity: "error", place: { file, pointer: "" }, fixes };
}

/** `undefined` for a file that is not there, or no picture; whoever looks at all pictures finds out which. */
async function sizeOf(folder: CatalogFolder, path: string): Promise<Size | undefined> {
  const head = await folder.readHead(path, 24).catch((error: unknown) => {
    if (error instanceof MantleError) return undefined;
    throw error;
  });
  return head && pngSize(head);
}
