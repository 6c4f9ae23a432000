import { parentPort, workerData } from "node:worker_threads";
import { type FigureGroup, figureLooker } from "../core/survey/art/look-at-figures.ts";
import type { CatalogPlace } from "./catalog-place.ts";
import { loadCatalog } from "./load-catalog.ts";
import { PictureReader } from "./picture-reader.ts";
import type { GroupSeen } from "./survey-threads.ts";

/** Looks at the figures that another thread hands over, in the catalog whose folder that thread named. */
const folder: CatalogPlace = workerData;
const catalog = await loadCatalog(folder);
const reader = new PictureReader(folder);
const look = figureLooker(catalog, (path) => reader.read(path));

parentPort?.on("message", async (group: FigureGroup) => {
  const seen = await look(group);
  parentPort?.postMessage({ seen, problems: reader.problems } satisfies GroupSeen);
});
