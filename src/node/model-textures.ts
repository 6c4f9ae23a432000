import { besideModel } from "../core/model/beside-model.ts";
import { externalFiles } from "../core/model/external-files.ts";
import { type CatalogFolder, nothingIfUnreadable } from "./catalog-folder.ts";

/** The paths of the files that models name, textures among them. A model that cannot be read names none: others say so. */
export async function modelTextures(folder: CatalogFolder, models: Iterable<string>): Promise<ReadonlySet<string>> {
  const named = new Set<string>();
  for (const model of models) {
    const bytes = await folder.read(model, { bytes: Number.POSITIVE_INFINITY }).catch(nothingIfUnreadable);
    for (const uri of bytes === undefined ? [] : externalFiles(bytes)) named.add(besideModel(model, uri));
  }
  return named;
}
