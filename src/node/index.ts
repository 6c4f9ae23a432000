/**
 * Zealous Mantle on Node: catalogs in folders, pictures in files, saves on disk.
 *
 * @module zealous-mantle/node
 */

export type { CatalogPlace } from "./catalog-place.ts";
export { fileStore } from "./file-store.ts";
export { inspectCatalog, type LoadOptions, loadCatalog } from "./load-catalog.ts";
export { loadImages } from "./load-images.ts";
export { loadModels } from "./load-models.ts";
export { cachePoints } from "./marks.ts";
export { packCatalog, type PackedCatalog } from "./pack-catalog.ts";
export { type PictureSurvey, surveyPictures } from "./survey-pictures.ts";
export { surveyWorn } from "./survey-worn.ts";
