import { badCatalog } from "../core/base/bad-catalog.ts";
import { limits } from "../core/base/limits.ts";
import { type Message, message } from "../core/base/message.ts";
import { type Fix, MantleError, type Problem, pointerTo } from "../core/base/problem.ts";
import { isBundle } from "../core/bundle/bundle.ts";
import type { BundleSources } from "../core/bundle/pack-bundle.ts";
import type { Catalog, CatalogIds, Size } from "../core/catalog/model/catalog.ts";
import { type MarkerPicture, markerPictures } from "../core/catalog/read/marker-pictures.ts";
import { type Reading, readCatalog } from "../core/catalog/read/read-catalog.ts";
import { checkArt } from "../core/look/check-art.ts";
import { modelFiles } from "../core/look/model-files.ts";
import { neededTables } from "../core/look/needed-tables.ts";
import { framesEnding, marksEnding } from "../core/raster/content-name.ts";
import { pngSize } from "../core/raster/png/decode-png.ts";
import { checkCreation } from "../core/survey/check-creation.ts";
import { type Allowance, CatalogFolder, isInside, nothingIfUnreadable } from "./catalog-folder.ts";
import { findLines } from "./find-lines.ts";
import { loadTables, noTables } from "./load-tables.ts";
import { loadMarks } from "./marks.ts";
import { modelTextures } from "./model-textures.ts";
import { readJsonFile } from "./read-json-file.ts";

/** How much of a catalog's art is looked at. */
export interface LoadOptions {
  /**
   * `none` reads no picture: enough to judge, edit and save characters. `points` reads the pictures that mark points, as drawing
   * needs. `sizes` reads the header of every picture as well, and reports what is missing, unused or of another size.
   *
   * @defaultValue `"points"`
   */
  readonly art?: "none" | "points" | "sizes";
}

/**
 * Loads a catalog from its folder: `catalog.json`, the files it includes, and as much of its art as is asked for.
 *
 * With the types that `mantle types` writes, the compiler knows its ids: `loadCatalog<SaltmarshIds>("saltmarsh")`.
 *
 * @throws MantleError `bad-catalog` with every problem, when there is an error among them; `unreadable-file` when there is no
 * `catalog.json`.
 * @example
 * const catalog = await loadCatalog("saltmarsh")
 */
export async function loadCatalog<Ids extends CatalogIds = CatalogIds>(
  folder: string,
  { art = "points" }: LoadOptions = {},
): Promise<Catalog<Ids>> {
  const { catalog, problems } = await inspectCatalog(folder, { art });
  if (catalog === undefined || problems.some(({ severity }) => severity === "error"))
    throw badCatalog(`in ${folder}`, problems);
  return catalog as Catalog<Ids>;
}

/**
 * Reads a catalog folder and returns everything that is wrong with it, art included unless less is asked for.
 *
 * @throws MantleError `unreadable-file` when there is no `catalog.json`.
 */
export async function inspectCatalog(folder: string, { art = "sizes" }: LoadOptions = {}): Promise<Inspection> {
  const place = new CatalogFolder(folder);
  const { sources, ...inspection } = await inspectFolder(place, art);
  const { problems, files } = inspection;
  return problems.length === 0 ? inspection : { ...inspection, problems: await findLines(place, files, problems) };
}

/** What was read of a folder, and from which JSON files. */
export type Inspection = Reading & { readonly files: readonly string[] };

/** The same, with what was read, and without the lines in which problems are. */
export async function inspectFolder(
  place: CatalogFolder,
  art: NonNullable<LoadOptions["art"]>,
): Promise<Inspection & { readonly sources: Omit<BundleSources, "catalog"> }> {
  const allowance: Allowance = { bytes: limits.catalogLength };
  const main = await readJsonFile(place, "catalog.json", allowance);
  const problems: Problem[] = [...main.problems];
  const included: Record<string, unknown> = {};
  const patterns = includesOf(main.value);
  const found = await Promise.all(patterns.map((pattern) => filesOf(place, pattern)));
  for (const [number, result] of found.entries()) if ("code" in result) problems.push(emptyInclude(result, number));
  const files = [...new Set(found.flatMap((result) => ("code" in result ? [] : result)))];
  if (files.length > limits.files) problems.push(tooManyFiles(files.length));
  const came = await Promise.all(files.slice(0, limits.files).map((file) => readIncluded(place, file, allowance)));
  for (const [at, { value, problems: own }] of came.entries()) {
    problems.push(...own);
    if (value !== undefined) included[files[at] ?? ""] = value;
  }
  const all = ["catalog.json", ...Object.keys(included)];
  if (isBundle(main.value))
    throw new MantleError(
      "bad-catalog",
      `${place.path} holds a bundle, which "mantle pack" made for browsers. Name the folder of the catalog it was packed from.`,
    );
  const read = { main: main.value, included, marks: noMarkers.pictures, tables: noTables.tables };
  if (main.value === undefined) return { catalog: undefined, problems, files: all, sources: read };
  const markers = art === "none" ? noMarkers : await markersIn(place, main.value, included);
  const first = readCatalog(main.value, included, { pictures: markers.pictures });
  const needed = art === "none" || first.catalog === undefined ? [] : neededTables(first.catalog);
  const tables = needed.length === 0 ? noTables : await loadTables(place, needed, allowance);
  problems.push(...tables.problems);
  const sources = { ...read, marks: markers.pictures, tables: tables.tables };
  const reading =
    needed.length === 0
      ? first
      : readCatalog(main.value, included, { pictures: markers.pictures, tables: tables.tables });
  problems.push(...markers.problems);
  for (const problem of reading.problems) {
    if (problem.code === "missing-frames" && (art === "none" || tables.problems.length > 0)) continue;
    if (problem.code !== "missing-points") problems.push(problem);
    // Nobody draws without art; and where every picture is looked at, a missing one is found with all the others.
    else if (art === "points" && markers.problems.length === 0)
      problems.push({ ...problem, severity: "error", fixes: drawIt });
  }
  if (reading.catalog === undefined || problems.some(({ severity }) => severity === "error"))
    return { catalog: undefined, problems, files: all, sources };
  if (art === "sizes") {
    const sizes = await pictureSizes(place);
    for (const texture of await modelTextures(place, modelFiles(reading.catalog))) sizes.delete(texture);
    problems.push(...checkCreation(reading.catalog), ...checkArt(reading.catalog, sizes));
  }
  return { catalog: reading.catalog, problems, files: all, sources };
}

/** The files that a pattern includes, in the order of their names, or why there are none. A plain name needs no search. */
async function filesOf(folder: CatalogFolder, pattern: string): Promise<readonly string[] | NoFiles> {
  const shown = pattern.length > 60 ? `${pattern.slice(0, 57)}…` : pattern;
  const leadsOut = message("include-leads-out", { pattern: shown });
  if (!isInside(pattern)) return leadsOut;
  // `*` within a name, `**` for folders, `?` for a letter: nothing else of what patterns may be elsewhere.
  if (pattern.length > 200 || /[(){}[\]!]/.test(pattern)) return message("include-not-a-pattern", { pattern: shown });
  const [plain = ""] = /^(?:[^*?]*(?:\/|$))?/.exec(pattern) ?? [];
  const start = await folder.find(plain === "" ? "." : plain).catch(() => leadsOut);
  if (start === leadsOut) return leadsOut;
  if (plain === pattern) return start === undefined ? message("include-of-no-file", { pattern: shown }) : [pattern];
  const { glob } = await import("tinyglobby");
  const found = await glob(pattern, {
    cwd: folder.path,
    onlyFiles: true,
    followSymbolicLinks: false,
    expandDirectories: false,
  });
  const files = found.filter((file) => !file.endsWith(marksEnding) && !file.endsWith(framesEnding)).sort();
  return files.length === 0 ? message("include-of-nothing", { pattern: shown }) : files;
}

function includesOf(source: unknown): readonly string[] {
  const include: unknown = typeof source === "object" && source !== null && "include" in source ? source.include : [];
  return Array.isArray(include) ? include.filter((each) => typeof each === "string").slice(0, limits.files) : [];
}

/** An included file, or a problem with the reason why it cannot be read. */
async function readIncluded(
  folder: CatalogFolder,
  file: string,
  allowance: Allowance,
): ReturnType<typeof readJsonFile> {
  return readJsonFile(folder, file, allowance).catch((error: unknown) => {
    if (!(error instanceof MantleError)) throw error;
    const problem: Problem = {
      ...message("unreadable-file", { reason: error.message }),
      severity: "error",
      place: { file, pointer: "" },
      fixes: [{ code: "mend-unreadable-file", params: {} }],
    };
    return { value: undefined, problems: [problem] };
  });
}

function tooManyFiles(count: number): Problem {
  return {
    ...message("too-many-files", { count, max: limits.files }),
    severity: "error",
    place: { file: "catalog.json", pointer: "/include" },
    fixes: [{ code: "mend-too-many-files", params: {} }],
  };
}

/** Why a pattern includes nothing. */
type NoFiles = Message<"include-leads-out" | "include-not-a-pattern" | "include-of-no-file" | "include-of-nothing">;

function emptyInclude(reason: NoFiles, number: number): Problem {
  return {
    ...reason,
    // A folder that is still empty is no mistake: its first file comes with the first part.
    severity: reason.code === "include-of-nothing" ? "warning" : "error",
    place: { file: "catalog.json", pointer: pointerTo("include", number) },
    fixes: [{ code: "name-files", params: {} }],
  };
}

interface Markers {
  readonly pictures: ReadonlyMap<string, MarkerPicture>;
  readonly problems: readonly Problem[];
}

const noMarkers: Markers = { pictures: new Map(), problems: [] };

const drawIt: readonly Fix[] = [{ code: "draw-markers", params: {} }];

/** What marks points, as far as it is there; what is there and no picture is a problem. */
async function markersIn(
  folder: CatalogFolder,
  main: unknown,
  included: Readonly<Record<string, unknown>>,
): Promise<Markers> {
  const paths = markerPictures(main, ...Object.values(included));
  const problems: Problem[] = [];
  const read = paths.map(async (path): Promise<[string, MarkerPicture][]> => {
    try {
      const marks = await loadMarks(folder, path);
      return marks === undefined ? [] : [[path, marks]];
    } catch (error) {
      if (!(error instanceof MantleError)) throw error;
      problems.push(badMarkers(path, error.message));
      return [];
    }
  });
  return { pictures: new Map((await Promise.all(read)).flat()), problems };
}

function badMarkers(file: string, reason: string): Problem {
  const fixes: readonly Fix[] = [{ code: "mend-bad-picture", params: {} }];
  return { ...message("bad-picture", { reason }), severity: "error", place: { file, pointer: "" }, fixes };
}

async function pictureSizes(folder: CatalogFolder): Promise<Map<string, Size | undefined>> {
  const { glob } = await import("tinyglobby");
  const sizes = new Map<string, Size | undefined>();
  for (const path of (await glob("**/*.png", { cwd: folder.path, followSymbolicLinks: false })).sort()) {
    const head = await folder.readHead(path, 24).catch(nothingIfUnreadable);
    sizes.set(path, head === undefined ? undefined : pngSize(head));
  }
  return sizes;
}
