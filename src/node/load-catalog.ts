import { basename } from "node:path";
import { badCatalog } from "../core/base/bad-catalog.ts";
import { limits } from "../core/base/limits.ts";
import { type Message, message } from "../core/base/message.ts";
import { english } from "../core/base/messages/english.ts";
import { englishArt } from "../core/base/messages/english-art.ts";
import { type Fix, MantleError, type Place, type Problem, pointerTo } from "../core/base/problem.ts";
import { isBundle } from "../core/bundle/bundle.ts";
import type { BundleSources } from "../core/bundle/pack-bundle.ts";
import type { Catalog, CatalogIds, Size } from "../core/catalog/model/catalog.ts";
import { packFolder } from "../core/catalog/pack-paths.ts";
import { mergePacks } from "../core/catalog/packs/merge-packs.ts";
import type { PackFiles } from "../core/catalog/packs/pack-files.ts";
import { type PointImage, pointImages } from "../core/catalog/read/point-images.ts";
import { type Reading, readCatalog } from "../core/catalog/read/read-catalog.ts";
import { checkArt } from "../core/look/check-art.ts";
import { modelFiles } from "../core/look/model-files.ts";
import { neededTables } from "../core/look/needed-tables.ts";
import { framesEnding, marksEnding } from "../core/raster/content-hash.ts";
import { pngSize } from "../core/raster/png/decode-png.ts";
import { checkCreation } from "../core/survey/check-creation.ts";
import { type Allowance, CatalogFolder, isInside, nothingIfUnreadable } from "./catalog-folder.ts";
import { type CatalogPlace, folderOf, packsOf } from "./catalog-place.ts";
import { findLines } from "./find-lines.ts";
import { loadTables, noTables, type Tables } from "./load-tables.ts";
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
 * Loads a catalog from its folder: `catalog.json`, the files it includes, and as much of its art as is asked for; with packs, what they add to it and
 * change of it.
 *
 * With the types that `mantle types` writes, the compiler knows its ids: `loadCatalog<SaltmarshIds>("saltmarsh")`.
 *
 * @throws MantleError `bad-catalog` with every problem, when there is an error among them; `unreadable-file` when there is no
 * `catalog.json`.
 * @example
 * const catalog = await loadCatalog("saltmarsh")
 * const more = await loadCatalog({ folder: "saltmarsh", packs: ["mods/festival"] })
 */
export async function loadCatalog<Ids extends CatalogIds = CatalogIds>(
  folder: CatalogPlace,
  { art = "points" }: LoadOptions = {},
): Promise<Catalog<Ids>> {
  const { catalog, problems } = await inspectCatalog(folder, { art });
  if (catalog === undefined || problems.some(({ severity }) => severity === "error"))
    throw badCatalog(`in ${folderOf(folder)}`, problems, { ...english, ...englishArt });
  return catalog as Catalog<Ids>;
}

/**
 * Reads a catalog folder and returns everything that is wrong with it, art included unless less is asked for.
 *
 * @throws MantleError `unreadable-file` when there is no `catalog.json`.
 */
export async function inspectCatalog(folder: CatalogPlace, { art = "sizes" }: LoadOptions = {}): Promise<Inspection> {
  const place = new CatalogFolder(folder);
  const { sources, ...inspection } = await inspectFolder(place, art, packsOf(folder));
  const { problems, files } = inspection;
  return problems.length === 0 ? inspection : { ...inspection, problems: await findLines(place, files, problems) };
}

/** What was read of a folder, and from which JSON files. */
export type Inspection = Reading & { readonly files: readonly string[] };

/**
 * The same, with what was read, and without the lines in which problems are.
 *
 * @param packs - the folders of those that `place` has.
 */
export async function inspectFolder(
  place: CatalogFolder,
  art: NonNullable<LoadOptions["art"]>,
  packs: readonly string[] = [],
): Promise<Inspection & { readonly sources: Omit<BundleSources, "catalog"> }> {
  const allowance: Allowance = { bytes: limits.catalogLength };
  const own = await readFiles(place, "catalog.json", allowance);
  const problems: Problem[] = [...own.problems];
  if (isBundle(own.main))
    throw new MantleError(
      "bad-catalog",
      `${place.path} holds a bundle, which "mantle pack" made for browsers. Name the folder of the catalog it was packed from.`,
    );
  const read = await readPacks(packs, allowance);
  problems.push(...read.problems);
  const { main, included } = own;
  const laid = packs.length === 0 ? undefined : mergePacks(read.packs);
  const files = ["catalog.json", ...Object.keys(included), ...read.files];
  const first = { main, included, packs: read.packs, marks: noMarkers.pictures, tables: noTables.tables };
  if (main === undefined) return { catalog: undefined, problems, files, sources: first };
  const contents = [...Object.values(included), ...(laid?.contents ?? [])];
  const markers = art === "none" ? noMarkers : await markersIn(place, main, contents);
  const readWith = (tables: Tables["tables"]) =>
    readCatalog(main, included, { pictures: markers.pictures, tables, ...(laid && { packs: laid }) });
  const untabled = readWith(noTables.tables);
  const needed = art === "none" || untabled.catalog === undefined ? [] : neededTables(untabled.catalog);
  const tables = needed.length === 0 ? noTables : await loadTables(place, needed, allowance);
  problems.push(...tables.problems);
  const sources = { ...first, marks: markers.pictures, tables: tables.tables };
  const reading = needed.length === 0 ? untabled : readWith(tables.tables);
  problems.push(...markers.problems);
  for (const problem of reading.problems) {
    // What a file that cannot be read defines is not known.
    if (!(own.isWhole && read.isWhole) && hangsOnOthers(problem)) continue;
    if (problem.code === "missing-frames" && (art === "none" || tables.problems.length > 0)) continue;
    if (problem.code !== "missing-points") problems.push(problem);
    // Nobody draws without art; and where every picture is looked at, a missing one is found with all the others.
    else if (art === "points" && markers.problems.length === 0)
      problems.push({ ...problem, severity: "error", fixes: drawIt });
  }
  if (reading.catalog === undefined || problems.some(({ severity }) => severity === "error"))
    return { catalog: undefined, problems, files, sources };
  if (art === "sizes") {
    const sizes = await pictureSizes(place, read.folders);
    for (const texture of await modelTextures(place, modelFiles(reading.catalog))) sizes.delete(texture);
    problems.push(...checkCreation(reading.catalog), ...checkArt(reading.catalog, sizes));
  }
  return { catalog: reading.catalog, problems, files, sources };
}

/** Whether a finding is that something else is not defined. */
function hangsOnOthers({ code, params }: Problem): boolean {
  return code === "step-offers-nothing" || (code.startsWith("unknown-") && "id" in params);
}

/** A main file and those it includes, and what is wrong with them as files. */
interface ReadFiles {
  readonly main: unknown;
  readonly included: Readonly<Record<string, unknown>>;
  readonly problems: readonly Problem[];
  /** Whether every file could be read as JSON. */
  readonly isWhole: boolean;
}

async function readFiles(folder: CatalogFolder, name: string, allowance: Allowance): Promise<ReadFiles> {
  const main = await readJsonFile(folder, name, allowance);
  const problems: Problem[] = [...main.problems];
  const included: Record<string, unknown> = {};
  const patterns = includesOf(main.value);
  const found = await Promise.all(patterns.map((pattern) => filesOf(folder, pattern)));
  for (const [number, result] of found.entries())
    if ("code" in result) problems.push(emptyInclude(name, result, number));
  const files = [...new Set(found.flatMap((result) => ("code" in result ? [] : result)))];
  if (files.length > limits.files) problems.push(tooManyFiles(name, files.length));
  const came = await Promise.all(files.slice(0, limits.files).map((file) => readIncluded(folder, file, allowance)));
  for (const [at, { value, problems: own }] of came.entries()) {
    problems.push(...own);
    if (value !== undefined) included[files[at] ?? ""] = value;
  }
  return { main: main.value, included, problems, isWhole: came.every(({ value }) => value !== undefined) };
}

/** Packs as they were read, and their files as they are found from the folder of the catalog. */
interface ReadPacks {
  readonly packs: readonly PackFiles[];
  readonly files: readonly string[];
  readonly problems: readonly Problem[];
  /** The folders of the packs, by where they are found. */
  readonly folders: ReadonlyMap<string, CatalogFolder>;
  readonly isWhole: boolean;
}

async function readPacks(paths: readonly string[], allowance: Allowance): Promise<ReadPacks> {
  const packs: PackFiles[] = [];
  const files: string[] = [];
  const problems: Problem[] = [];
  const folders = new Map<string, CatalogFolder>();
  let isWhole = true;
  for (const path of paths) {
    const folder = new CatalogFolder(path);
    const read = await readFiles(folder, "pack.json", allowance);
    const id: unknown = Object(read.main).id;
    const there = packFolder(typeof id === "string" ? id : basename(path));
    const placed = (place: Place): Place => ({ ...place, ...(place.file && { file: there + place.file }) });
    problems.push(...read.problems.map((problem) => ({ ...problem, place: placed(problem.place) })));
    if (read.main !== undefined) packs.push({ source: read.main, included: read.included });
    isWhole &&= read.isWhole && read.main !== undefined;
    files.push(...["pack.json", ...Object.keys(read.included)].map((file) => there + file));
    folders.set(there, folder);
  }
  return { packs, files, problems, folders, isWhole };
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

function tooManyFiles(file: string, count: number): Problem {
  return {
    ...message("too-many-files", { count, max: limits.files }),
    severity: "error",
    place: { file, pointer: "/include" },
    fixes: [{ code: "mend-too-many-files", params: {} }],
  };
}

/** Why a pattern includes nothing. */
type NoFiles = Message<"include-leads-out" | "include-not-a-pattern" | "include-of-no-file" | "include-of-nothing">;

function emptyInclude(file: string, reason: NoFiles, number: number): Problem {
  return {
    ...reason,
    // A folder that is still empty is no mistake: its first file comes with the first part.
    severity: reason.code === "include-of-nothing" ? "warning" : "error",
    place: { file, pointer: pointerTo("include", number) },
    fixes: [{ code: "name-files", params: {} }],
  };
}

interface Markers {
  readonly pictures: ReadonlyMap<string, PointImage>;
  readonly problems: readonly Problem[];
}

const noMarkers: Markers = { pictures: new Map(), problems: [] };

const drawIt: readonly Fix[] = [{ code: "draw-markers", params: {} }];

/** What marks points, as far as it is there; what is there and no picture is a problem. */
async function markersIn(folder: CatalogFolder, main: unknown, contents: readonly unknown[]): Promise<Markers> {
  const paths = pointImages(main, ...contents);
  const problems: Problem[] = [];
  const read = paths.map(async (path): Promise<[string, PointImage][]> => {
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

/** @param packs - the folders of packs, by where they are found from that of the catalog. */
async function pictureSizes(
  folder: CatalogFolder,
  packs: ReadonlyMap<string, CatalogFolder>,
): Promise<Map<string, Size | undefined>> {
  const { glob } = await import("tinyglobby");
  const sizes = new Map<string, Size | undefined>();
  // Packs may lie in the folder of their catalog, loaded or not.
  for (const [there, { path }] of new Map([["", folder], ...packs])) {
    const ignore = there === "" ? ["packs/*/**"] : [];
    const found = await glob("**/*.png", { cwd: path, followSymbolicLinks: false, ignore });
    for (const file of found.map((each) => there + each).sort()) {
      const head = await folder.readHead(file, 24).catch(nothingIfUnreadable);
      sizes.set(file, head === undefined ? undefined : pngSize(head));
    }
  }
  return sizes;
}
