import type { Catalog } from "../core/catalog/model/catalog.ts";
import type { WornReport } from "../core/model/check-worn.ts";
import type { CatalogPlace } from "./catalog-place.ts";
import { loadModels } from "./load-models.ts";

/**
 * Wears every part with meshes on every body of a catalog, in every clip: whether skin pokes through, and whether corners are torn.
 *
 * @param folder - the folder of the catalog.
 * @throws MantleError `missing-model`, `unreadable-model` and the like: what `checkModels` finds is to be mended first.
 */
export async function surveyWorn(catalog: Catalog, folder: CatalogPlace): Promise<WornReport> {
  const { checkWorn } = await import("../core/model/check-worn.ts");
  return checkWorn(catalog, (look) => loadModels(folder, [look]));
}
