import { open, readFile } from "node:fs/promises";
import { join } from "node:path";
import { glob } from "tinyglobby";
import type { Catalog, Size } from "../core/catalog/catalog.ts";
import { type Reading, readCatalog } from "../core/catalog/read-catalog.ts";
import { markerPictures } from "../core/catalog/read-markers.ts";
import { checkArt } from "../core/look/check-art.ts";
import { describeProblem, MantleError, type Problem, pointerTo } from "../core/problem.ts";
import type { Image } from "../core/raster/image.ts";
import { decodePng, pngSize } from "../core/raster/png.ts";
import { readJsonFile } from "./read-json-file.ts";

/**
 * Loads a catalog from its folder: `catalog.json`, the files it includes, and a look at every picture.
 *
 * @throws MantleError `bad-catalog` with every problem, when there is an error among them; `unreadable-file` when there is no
 * `catalog.json`.
 * @example
 * const catalog = await loadCatalog("demo/saltmarsh")
 */
export async function loadCatalog(folder: string): Promise<Catalog> {
  const { catalog, problems } = await inspectCatalog(folder);
  const errors = problems.filter(({ severity }) => severity === "error");
  if (catalog !== undefined && errors.length === 0) return catalog;
  const more = errors.length > 5 ? [`… and ${errors.length - 5} more; mantle check lists them all.`] : [];
  const lines = [`The catalog in ${folder} cannot be used.`, ...errors.slice(0, 5).map(describeProblem), ...more];
  throw new MantleError("bad-catalog", lines.join("\n"), problems);
}

/**
 * Reads a catalog folder and returns everything that is wrong with it, art included.
 *
 * @throws MantleError `unreadable-file` when there is no `catalog.json`.
 */
export async function inspectCatalog(folder: string): Promise<Reading> {
  const main = await readJsonFile(join(folder, "catalog.json"), "catalog.json");
  const problems: Problem[] = [...main.problems];
  const included: Record<string, unknown> = {};
  for (const [number, pattern] of includesOf(main.value).entries()) {
    const found = isInside(pattern) ? await glob(pattern, { cwd: folder, onlyFiles: true }) : [];
    if (found.length === 0) problems.push(emptyInclude(pattern, number));
    for (const file of found.sort()) {
      const { value, problems: own } = await readJsonFile(join(folder, file), file);
      problems.push(...own);
      if (value !== undefined) included[file] = value;
    }
  }
  const reading: Reading =
    main.value === undefined
      ? { catalog: undefined, problems: [] }
      : readCatalog(main.value, included, { pictures: await markersIn(folder, main.value, included) });
  // A marker picture that is missing is found with all the others.
  problems.push(...reading.problems.filter(({ code }) => code !== "missing-points"));
  if (reading.catalog === undefined || problems.some(({ severity }) => severity === "error"))
    return { catalog: undefined, problems };
  problems.push(...checkArt(reading.catalog, await pictureSizes(folder)));
  return { catalog: reading.catalog, problems };
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

/** The pictures that mark points, as far as they are there and can be read; the rest is for the reading to report. */
async function markersIn(
  folder: string,
  main: unknown,
  included: Readonly<Record<string, unknown>>,
): Promise<ReadonlyMap<string, Image>> {
  const paths = markerPictures(main, ...Object.values(included)).filter(isInside);
  const found = await glob([...paths], { cwd: folder });
  const read = found.map(async (path): Promise<[string, Image][]> => {
    const bytes = await readFile(join(folder, path));
    return pngSize(bytes) === undefined ? [] : [[path, decodePng(bytes)]];
  });
  return new Map((await Promise.all(read)).flat());
}

async function pictureSizes(folder: string): Promise<ReadonlyMap<string, Size | undefined>> {
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
