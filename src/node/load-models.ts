import { limits } from "../core/base/limits.ts";
import { MantleError } from "../core/base/problem.ts";
import type { Look } from "../core/look/look.ts";
import { besideModel } from "../core/model/beside-model.ts";
import { externalFiles } from "../core/model/external-files.ts";
import { CatalogFolder } from "./catalog-folder.ts";
import { type CatalogPlace, folderOf } from "./catalog-place.ts";

/**
 * Reads the models that looks need, with the skeletons of their rigs, each once, and the textures that several of them share.
 *
 * @param folder - the folder of the catalog, or that with those of its packs.
 * @returns their bytes by their paths, for `assembleModel` and `prepareModel`.
 * @throws MantleError `missing-model` for a file that is not there, `unreadable-file` for one that may not be read.
 */
export async function loadModels(
  folder: CatalogPlace,
  looks: readonly Look[],
): Promise<ReadonlyMap<string, Uint8Array>> {
  const place = new CatalogFolder(folder);
  const files = looks.flatMap(({ skeleton, meshes }) => [
    ...(skeleton === undefined ? [] : [skeleton]),
    ...meshes.map(({ file }) => file),
  ]);
  const models = new Map<string, Uint8Array>();
  const read = async (file: string) => {
    const bytes = await place.read(file, { bytes: limits.pictureBytes });
    if (bytes === undefined) throw new MantleError("missing-model", `There is no file ${file} in ${folderOf(folder)}.`);
    models.set(file, bytes);
    return bytes;
  };
  for (const file of new Set(files))
    for (const uri of externalFiles(await read(file))) {
      const path = besideModel(file, uri);
      if (!models.has(path)) await read(path);
    }
  return models;
}
