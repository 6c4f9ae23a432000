import { limits } from "../core/base/limits.ts";
import { type Message, message } from "../core/base/message.ts";
import { MantleError, type Problem, pointerTo } from "../core/base/problem.ts";
import type { Catalog, Size } from "../core/catalog/model/catalog.ts";
import { extractPoints, isMarks, type PointImage } from "../core/catalog/read/point-images.ts";
import { neededTables, tableOfFiles } from "../core/look/needed-tables.ts";
import { marksFile } from "../core/raster/content-hash.ts";
import { pngSize } from "../core/raster/png/decode-png.ts";
import { badServedCatalog } from "./bad-served-catalog.ts";
import { decodePicture } from "./decode-picture.ts";
import type { ServedFolder } from "./served-folder.ts";

/** What a file holds, or why it did not come. */
type Came = { readonly value: unknown } | { readonly error: MantleError };

/** The files that a main file includes. @param name - what that is called. */
export async function fetchIncluded(
  folder: ServedFolder,
  name: string,
  main: unknown,
  files: readonly string[] | undefined,
): Promise<Readonly<Record<string, unknown>>> {
  const include: unknown = Object(main).include;
  const patterns = Array.isArray(include) ? include.filter((each) => typeof each === "string") : [];
  const problems: Problem[] = [];
  const places = new Map<string, number>();
  for (const [number, pattern] of patterns.entries()) {
    const isPattern = /[*?]/.test(pattern);
    if (isPattern && files === undefined)
      problems.push(notIncluded(name, number, message("include-unlisted", { pattern })));
    const paths = isPattern ? (files ?? []).filter((path) => matches(pattern, path)) : [pattern];
    for (const path of paths) places.set(path, number);
  }
  const paths = [...places.keys()].sort();
  if (paths.length > limits.files)
    problems.push(notIncluded(name, 0, message("too-many-files", { count: paths.length, max: limits.files })));
  const all = await folder.all(paths.slice(0, limits.files), (path): Promise<Came> => {
    return folder.json(path).then(
      (value) => ({ value }),
      (error: unknown) => {
        if (error instanceof MantleError) return { error };
        throw error;
      },
    );
  });
  for (const [at, came] of all.entries()) {
    const number = places.get(paths[at] ?? "") ?? 0;
    if ("error" in came)
      problems.push(notIncluded(name, number, message("unreadable-file", { reason: came.error.message })));
  }
  // What they would have said is missing everywhere else, too, and that is no other mistake.
  if (problems.length > 0) throw await badServedCatalog(folder.base, problems);
  return Object.fromEntries(all.map((came, at) => [paths[at] ?? "", "value" in came ? came.value : undefined]));
}

function notIncluded(
  file: string,
  number: number,
  finding: Message<"include-unlisted" | "unreadable-file" | "too-many-files">,
): Problem {
  const place = { file, pointer: pointerTo("include", number) };
  return { ...finding, severity: "error", place, fixes: [{ code: "name-each-file", params: {} }] };
}

/** Whether a path is one that a pattern means: `*` is any part of a name, `**` any folders, `?` a letter. */
function matches(pattern: string, path: string): boolean {
  const parts = pattern.split(/(\*\*\/|\*|\?)/).map((part) => {
    if (part === "**/") return "(?:.*/)?";
    if (part === "*") return "[^/]*";
    return part === "?" ? "[^/]" : part.replace(/[\\^$.+()[\]{}|]/g, "\\$&");
  });
  return new RegExp(`^${parts.join("")}$`).test(path);
}

/** The pictures that mark points. One that is missing is not used, or is reported when the catalog is read. */
export async function fetchMarks(
  folder: ServedFolder,
  paths: readonly string[],
): Promise<ReadonlyMap<string, PointImage>> {
  const found = await folder.all(
    paths.filter((path) => folder.mayHave(path)),
    async (path): Promise<[string, PointImage][]> => {
      const bytes = await folder.bytes(path).catch(nothingIfMissing);
      if (bytes === undefined) return [];
      const kept = marksFile(path, bytes);
      // Those that were found once are kept beside the picture.
      const marks = folder.has(kept) ? await folder.json(kept) : undefined;
      return [[path, isMarks(marks) ? marks : extractPoints(await decodePicture(path, bytes))]];
    },
  );
  return new Map(found.flat());
}

export async function fetchTables(
  folder: ServedFolder,
  catalog: Catalog,
  isMeant: (path: string) => boolean = () => true,
): Promise<ReadonlyMap<string, unknown>> {
  const tables = new Map<string, unknown>();
  for (const { path, files } of neededTables(catalog)) {
    if (!isMeant(path)) continue;
    if (files === undefined) {
      const [table] = await folder.all([path], (each) => folder.json(each).catch(nothingIfMissing));
      if (table !== undefined) tables.set(path, table);
      continue;
    }
    const there = files.filter((file) => folder.mayHave(file.path));
    const sized = await folder.all(
      there.map((file) => file.path),
      async (each): Promise<[string, Size][]> => {
        const size = pngSize((await folder.bytes(each).catch(nothingIfMissing)) ?? new Uint8Array());
        return size === undefined ? [] : [[each, size]];
      },
    );
    tables.set(path, tableOfFiles(files, new Map(sized.flat())));
  }
  return tables;
}

function nothingIfMissing(error: unknown): undefined {
  if (!(error instanceof MantleError) || error.code !== "missing-file") throw error;
}
