/** Zealous Mantle on Node: catalogs in folders, pictures in files, saves on disk. */

export { inspectCatalog, loadCatalog } from "./load-catalog.ts";
export { loadImages } from "./load-images.ts";
export { fileStore } from "./file-store.ts";
