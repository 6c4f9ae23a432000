import { open, stat } from "node:fs/promises";
import { join } from "node:path";
import type { Catalog, Size } from "../core/catalog/catalog.ts";
import { type Reading, readCatalog } from "../core/catalog/read-catalog.ts";
import { type MarkerPicture, markerPictures } from "../core/catalog/read-markers.ts";
import { checkArt } from "../core/look/check-art.ts";
import { describeProblem, MantleError, type Problem, pointerTo } from "../core/problem.ts";
import { marksEnding } from "../core/raster/content-name.ts";
import { pngSize } from "../core/raster/png/decode-png.ts";
import { loadMarks } from "./marks.ts";
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
 * @throws MantleError `bad-catalog` with every problem, when there is an error among them; `unreadable-file` when there is no
 * `catalog.json`.
 * @example
 * const catalog = await loadCatalog("saltmarsh")
 */
export async function loadCatalog(folder: string, { art = "points" }: LoadOptions = {}): Promise<Catalog> {
  const { catalog, problems } = await inspectCatalog(folder, { art });
  const errors = problems.filter(({ severity }) => severity === "error");
  if (catalog !== undefined && errors.length === 0) return catalog;
  const more = errors.length > 5 ? [`… and ${errors.length - 5} more; mantle check lists them all.`] : [];
  const lines = [`The catalog in ${folder} cannot be used.`, ...errors.slice(0, 5).map(describeProblem), ...more];
  throw new MantleError("bad-catalog", lines.join("\n"), problems);
}

/**
 * Reads a catalog folder and returns everything that is wrong with it, art included unless less is asked for.
 *
 * @throws MantleError `unreadable-file` when there is no `catalog.json`.
 */
export async function inspectCatalog(folder: string, { art = "sizes" }: LoadOptions = {}): Promise<Reading> {
  const main = await readJsonFile(join(folder, "catalog.json"), "catalog.json");
  const problems: Problem[] = [...main.problems];
  const included: Record<string, unknown> = {};
  const patterns = includesOf(main.value);
  const found = await Promise.all(patterns.map((pattern) => filesOf(folder, pattern)));
  for (const [number, pattern] of patterns.entries())
    if (found[number]?.length === 0) problems.push(emptyInclude(pattern, number));
  const files = [...new Set(found.flat())];
  const read = await Promise.all(files.map((file) => readJsonFile(join(folder, file), file)));
  for (const [at, { value, problems: own }] of read.entries()) {
    problems.push(...own);
    if (value !== undefined) included[files[at] ?? ""] = value;
  }
  if (main.value === undefined) return { catalog: undefined, problems };
  const markers = art === "none" ? noMarkers : await markersIn(folder, main.value, included);
  const reading = readCatalog(main.value, included, { pictures: markers.pictures });
  problems.push(...markers.problems);
  for (const problem of reading.problems) {
    if (problem.code !== "missing-points") problems.push(problem);
    // Nobody draws without art; and where every picture is looked at, a missing one is found with all the others.
    else if (art === "points" && markers.problems.length === 0)
      problems.push({ ...problem, severity: "error", fixes: drawIt });
  }
  if (reading.catalog === undefined || problems.some(({ severity }) => severity === "error"))
    return { catalog: undefined, problems };
  if (art === "sizes") problems.push(...checkArt(reading.catalog, await pictureSizes(folder)));
  return { catalog: reading.catalog, problems };
}

/** The files that a pattern includes, in the order of their names; a plain name needs no search. */
async function filesOf(folder: string, pattern: string): Promise<readonly string[]> {
  if (!isInside(pattern)) return [];
  if (/^[\w./-]+$/.test(pattern)) {
    const found = await stat(join(folder, pattern)).catch(() => undefined);
    return found?.isFile() ? [pattern] : [];
  }
  const { glob } = await import("tinyglobby");
  const found = await glob(pattern, { cwd: folder, onlyFiles: true });
  return found.filter((file) => !file.endsWith(marksEnding)).sort();
}

function includesOf(source: unknown): readonly string[] {
  const include: unknown = typeof source === "object" && source !== null && "include" in source ? source.include : [];
  return Array.isArray(include) ? include.filter((each) => typeof each === "string") : [];
}

function isInside(pattern: string): boolean {
  return !pattern.startsWith("/") && !pattern.split(/[/\\]/).includes("..");
}

function emptyInclude(pattern: string, number: number): Problem {
  const because = isInside(pattern) ? `No file matches "${pattern}".` : `"${pattern}" leads out of the catalog folder.`;
  return {
    code: "empty-include",
    severity: "error",
    place: { file: "catalog.json", pointer: pointerTo("include", number) },
    because,
    fixes: [{ say: 'Name files inside the catalog folder, like "parts/*.json".' }],
  };
}

interface Markers {
  readonly pictures: ReadonlyMap<string, MarkerPicture>;
  readonly problems: readonly Problem[];
}

const noMarkers: Markers = { pictures: new Map(), problems: [] };

const drawIt = [{ say: 'Draw it, or correct its path; what only judges characters loads with art: "none".' }];

/** What marks points, as far as it is there; what is there and no picture is a problem. */
async function markersIn(folder: string, main: unknown, included: Readonly<Record<string, unknown>>): Promise<Markers> {
  const paths = markerPictures(main, ...Object.values(included)).filter(isInside);
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

function badMarkers(file: string, because: string): Problem {
  const fixes = [{ say: "Save it again as a PNG." }];
  return { code: "bad-picture", severity: "error", place: { file, pointer: "" }, because, fixes };
}

async function pictureSizes(folder: string): Promise<ReadonlyMap<string, Size | undefined>> {
  const { glob } = await import("tinyglobby");
  const sizes = new Map<string, Size | undefined>();
  for (const path of (await glob("**/*.png", { cwd: folder })).sort()) {
    const file = await open(join(folder, path));
    try {
      const { buffer, bytesRead } = await file.read(new Uint8Array(24), 0, 24, 0);
      sizes.set(path, pngSize(buffer.subarray(0, bytesRead)));
    } finally {
      await file.close();
    }
  }
  return sizes;
}
