import { badCatalog } from "../core/base/bad-catalog.ts";
import { limits } from "../core/base/limits.ts";
import { english } from "../core/base/messages/english.ts";
import { englishArt } from "../core/base/messages/english-art.ts";
import type { Problem } from "../core/base/problem.ts";
import type { Progress } from "../core/base/progress.ts";
import { packBundle } from "../core/bundle/pack-bundle.ts";
import { modelFiles } from "../core/look/model-files.ts";
import { CatalogFolder } from "./catalog-folder.ts";
import { type CatalogPlace, folderOf, packsOf } from "./catalog-place.ts";
import { decodePicture } from "./decode-picture.ts";
import { inspectFolder } from "./load-catalog.ts";
import { modelTextures } from "./model-textures.ts";

/** A catalog in few files, and how many it was before. */
export interface PackedCatalog {
  /** By their paths, in the order in which they are to be written: `catalog.json`, which names the others, last. */
  readonly files: ReadonlyMap<string, Uint8Array>;
  /** Warnings; a catalog with errors is not packed. */
  readonly problems: readonly Problem[];
  /** The files that were read, and their bytes. */
  readonly before: { readonly files: number; readonly bytes: number };
}

/**
 * Packs a catalog folder for shipping: its JSON in one file, the art of each body in one picture. Models are taken over as they are.
 *
 * @param progress - called after each picture, with how many are done.
 * @throws MantleError `bad-catalog` with every problem, when there is an error among them; `bad-picture`, `unreadable-file`.
 * @example
 * const { files } = await packCatalog("saltmarsh")
 */
export async function packCatalog(
  folder: CatalogPlace,
  onProgress?: (progress: Progress) => void,
): Promise<PackedCatalog> {
  const place = new CatalogFolder(folder);
  const { catalog, problems, files: jsonFiles, sources } = await inspectFolder(place, "sizes", packsOf(folder));
  if (catalog === undefined || problems.some(({ severity }) => severity === "error"))
    throw badCatalog(`in ${folderOf(folder)}`, problems, { ...english, ...englishArt });
  const read = new Map<string, number>();
  const readFile = async (path: string) => {
    const bytes = await place.read(path, { bytes: limits.pictureBytes });
    if (bytes !== undefined) read.set(path, bytes.length);
    return bytes;
  };
  const readPicture = async (path: string) => {
    const bytes = await readFile(path);
    return bytes && decodePicture(path, bytes);
  };
  const packed = await packBundle({ catalog, ...sources }, readPicture, onProgress);
  const models = modelFiles(catalog);
  const taken = new Map<string, Uint8Array>();
  for (const path of [...models, ...(await modelTextures(place, models))]) {
    const bytes = await readFile(path);
    if (bytes !== undefined) taken.set(path, bytes);
  }
  for (const path of jsonFiles) await readFile(path);
  const bytes = [...read.values()].reduce((sum, each) => sum + each, 0);
  return { files: new Map([...taken, ...packed]), problems, before: { files: read.size, bytes } };
}
