import { besideModel } from "../core/model/beside-model.ts";
import { externalFiles } from "../core/model/external-files.ts";
import { type ModelReading, readModel } from "../core/model/read-model.ts";
import { CatalogFolder, isInside } from "./catalog-folder.ts";
import type { CatalogPlace } from "./catalog-place.ts";

/** Bytes of a model, all its files together. */
const most = 256_000_000;

/**
 * Reads a model with the files beside it, none outside of its folder.
 *
 * @returns `undefined` when there is no such file.
 * @throws MantleError `unreadable-file` for one that may not be read.
 */
export async function readModelFile(folder: CatalogPlace, name: string): Promise<ModelReading | undefined> {
  const place = new CatalogFolder(folder);
  const allowance = { bytes: most };
  const bytes = await place.read(name, allowance);
  if (bytes === undefined) return undefined;
  const resources = new Map<string, Uint8Array>();
  for (const uri of externalFiles(bytes)) {
    const path = besideModel(name, uri);
    const found = isInside(path) ? await place.read(path, allowance) : undefined;
    if (found !== undefined) resources.set(uri, found);
  }
  return readModel(name, bytes, resources);
}
