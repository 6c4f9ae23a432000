import { readdir, rm } from "node:fs/promises";
import { basename, dirname, join } from "node:path";
import { limits } from "../core/base/limits.ts";
import { MantleError } from "../core/base/problem.ts";
import { extractPoints, isMarks, type PointImage } from "../core/catalog/read/point-images.ts";
import { marksEnding, marksFile } from "../core/raster/content-hash.ts";
import { decodePng } from "../core/raster/png/decode-png.ts";
import { CatalogFolder } from "./catalog-folder.ts";
import { writeFileWhole } from "./write-file-whole.ts";

/**
 * The marks of a picture that marks points: those kept beside it, or else read from its pixels, which takes some hundred times
 * as long. `undefined` when there is no such picture.
 *
 * @param picture - a path in the catalog's folder.
 * @throws MantleError `bad-picture` when it is not a PNG.
 */
export async function loadMarks(folder: CatalogFolder, picture: string): Promise<PointImage | undefined> {
  const bytes = await folder.read(picture, { bytes: limits.pictureBytes });
  if (bytes === undefined) return undefined;
  const kept = await folder.read(marksFile(picture, bytes), { bytes: limits.catalogLength });
  return (kept === undefined ? undefined : parseMarks(kept)) ?? extractPoints(decodePng(bytes));
}

/**
 * Keeps the marks of a picture beside it, and removes those of the picture it was before.
 *
 * @returns the path of the file in the catalog folder.
 * @throws MantleError `bad-picture` when it is not a PNG.
 */
export async function cachePoints(folder: string, picture: string): Promise<string> {
  const place = new CatalogFolder(folder);
  const bytes = await place.read(picture, { bytes: limits.pictureBytes });
  if (bytes === undefined) throw new MantleError("unreadable-file", `There is no picture ${picture} in ${folder}.`);
  const file = marksFile(picture, bytes);
  // Refused where a link of its name leads out of the folder.
  await place.find(file);
  await writeFileWhole(join(folder, file), `${JSON.stringify(extractPoints(decodePng(bytes)))}\n`);
  const stem = `${basename(picture).replace(/\.png$/i, "")}.`;
  for (const other of await readdir(join(folder, dirname(picture)))) {
    const isOlder = other.startsWith(stem) && other.endsWith(marksEnding) && other !== basename(file);
    if (isOlder) await rm(join(folder, dirname(picture), other));
  }
  return file;
}

/** What a file of marks holds; `undefined` when somebody wrote something else into it. */
function parseMarks(bytes: Buffer): PointImage | undefined {
  let value: unknown;
  try {
    value = JSON.parse(bytes.toString());
  } catch {
    return undefined;
  }
  return isMarks(value) ? value : undefined;
}
