import { badCatalog } from "../core/base/bad-catalog.ts";
import { limits } from "../core/base/limits.ts";
import { type Message, message } from "../core/base/message.ts";
import { MantleError, type Problem, pointerTo } from "../core/base/problem.ts";
import { isBundle } from "../core/bundle/bundle.ts";
import type { Catalog, CatalogIds, Size } from "../core/catalog/model/catalog.ts";
import { findMarks, isMarks, type MarkerPicture, markerPictures } from "../core/catalog/read/marker-pictures.ts";
import { type Reading, readCatalog } from "../core/catalog/read/read-catalog.ts";
import { neededTables, tableOfFiles } from "../core/look/needed-tables.ts";
import { marksFile } from "../core/raster/content-name.ts";
import { decodeNamedPng } from "../core/raster/png/decode-named-png.ts";
import { pngSize } from "../core/raster/png/decode-png.ts";
import { fetchBundle } from "./fetch-bundle.ts";
import { type FreshImageLoader, imageLoader } from "./image-loader.ts";
import { ServedFolder } from "./served-folder.ts";

export interface FetchCatalogOptions {
  /**
   * The paths of the files in the folder, as a bundler or a server lists them: patterns of `include` are looked up in it, and what is not in it
   * is not asked for. Without it, `include` has to name each file.
   */
  readonly files?: readonly string[];
  /** Is called as files arrive. More may be found to be needed on the way, so `total` may grow. */
  readonly onProgress?: (progress: { readonly done: number; readonly total: number }) => void;
  /** Gives up when it is aborted. */
  readonly signal?: AbortSignal;
}

/** A catalog that was fetched, and what draws it. */
export interface FetchedCatalog<Ids extends CatalogIds = CatalogIds> {
  readonly catalog: Catalog<Ids>;
  /** Fetches its pictures, for screens and painters. */
  readonly loader: FreshImageLoader;
  /** Warnings; a catalog with errors is not used. */
  readonly problems: readonly Problem[];
}

/**
 * Fetches a catalog that is served: a plain folder of `catalog.json`, the files it includes, and what marks points in its pictures; or the bundle that
 * `mantle pack` makes of one. Pictures themselves are fetched by the loader, when they are worn.
 *
 * @param url - of the folder, or of its `catalog.json`; relative to the page.
 * @throws MantleError `missing-file` without a `catalog.json`; `bad-catalog` with every problem where it cannot be used, and where files it includes did
 * not come, with those alone; `bad-bundle` for one that is cut short, or of another form. What `signal` was aborted with.
 * @example
 * const { catalog, loader } = await fetchCatalog("/saltmarsh/", { onProgress: ({ done, total }) => bar.set(done / total) })
 */
export async function fetchCatalog<Ids extends CatalogIds = CatalogIds>(
  url: string,
  options: FetchCatalogOptions = {},
): Promise<FetchedCatalog<Ids>> {
  const folder = new ServedFolder(url, options);
  const [main] = await folder.all(["catalog.json"], (path) => folder.json(path));
  const { loader, ...reading } = isBundle(main)
    ? await fetchBundle(folder, main)
    : await fetchFolder(folder, main, options);
  const { catalog, problems } = reading;
  if (catalog === undefined || problems.some(({ severity }) => severity === "error"))
    throw badCatalog(`at ${folder.base.href}`, problems);
  return { catalog: catalog as Catalog<Ids>, problems, loader };
}

/** What was read, and what fetches the pictures. */
export type FetchedReading = Reading & { readonly loader: FreshImageLoader };

async function fetchFolder(
  folder: ServedFolder,
  main: unknown,
  { files }: FetchCatalogOptions,
): Promise<FetchedReading> {
  const included = await fetchIncluded(folder, main, files);
  const pictures = await fetchMarks(folder, markerPictures(main, ...Object.values(included)));
  const first = readCatalog(main, included, { pictures });
  const tables = first.catalog === undefined ? new Map() : await fetchTables(folder, first.catalog);
  const reading = tables.size === 0 ? first : readCatalog(main, included, { pictures, tables });
  return { ...reading, loader: imageLoader((path) => folder.urlOf(path)) };
}

/** What a file holds, or why it did not come. */
type Came = { readonly value: unknown } | { readonly error: MantleError };

async function fetchIncluded(
  folder: ServedFolder,
  main: unknown,
  files: readonly string[] | undefined,
): Promise<Readonly<Record<string, unknown>>> {
  const include: unknown = Object(main).include;
  const patterns = Array.isArray(include) ? include.filter((each) => typeof each === "string") : [];
  const problems: Problem[] = [];
  const places = new Map<string, number>();
  for (const [number, pattern] of patterns.entries()) {
    const isPattern = /[*?]/.test(pattern);
    if (isPattern && files === undefined) problems.push(notIncluded(number, message("include-unlisted", { pattern })));
    const paths = isPattern ? (files ?? []).filter((path) => matches(pattern, path)) : [pattern];
    for (const path of paths) places.set(path, number);
  }
  const paths = [...places.keys()].sort();
  if (paths.length > limits.files)
    problems.push(notIncluded(0, message("too-many-files", { count: paths.length, max: limits.files })));
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
    if ("error" in came) problems.push(notIncluded(number, message("unreadable-file", { reason: came.error.message })));
  }
  // What they would have said is missing everywhere else, too, and that is no other mistake.
  if (problems.length > 0) throw badCatalog(`at ${folder.base.href}`, problems);
  return Object.fromEntries(all.map((came, at) => [paths[at] ?? "", "value" in came ? came.value : undefined]));
}

function notIncluded(
  number: number,
  finding: Message<"include-unlisted" | "unreadable-file" | "too-many-files">,
): Problem {
  const place = { file: "catalog.json", pointer: pointerTo("include", number) };
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

/** What marks points. One that is not there is nobody's, or is found missing when the catalog is read. */
async function fetchMarks(folder: ServedFolder, paths: readonly string[]): Promise<ReadonlyMap<string, MarkerPicture>> {
  const found = await folder.all(
    paths.filter((path) => folder.mayHave(path)),
    async (path): Promise<[string, MarkerPicture][]> => {
      const bytes = await folder.bytes(path).catch(nothingIfMissing);
      if (bytes === undefined) return [];
      const kept = marksFile(path, bytes);
      // Those that were found once are kept beside the picture.
      const marks = folder.has(kept) ? await folder.json(kept) : undefined;
      return [[path, isMarks(marks) ? marks : findMarks(decodeNamedPng(path, bytes))]];
    },
  );
  return new Map(found.flat());
}

async function fetchTables(folder: ServedFolder, catalog: Catalog): Promise<ReadonlyMap<string, unknown>> {
  const tables = new Map<string, unknown>();
  for (const { path, files } of neededTables(catalog)) {
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
