import { type Catalog, describeProblem, type Image, mergePacks, readCatalog } from "zealous-mantle";
import { extractPoints, type PointImage, pointImages } from "zealous-mantle/authoring";
import { listServed } from "zealous-mantle/browser";
import { messages } from "zealous-mantle/locales/en";
import { englishArt } from "zealous-mantle/locales/en/art";
import { decodePng } from "zealous-mantle/raster";
import type { DroppedPart } from "./dropped.ts";
import { contentsOf, packsAt } from "./served-contents.ts";

/** The pack that what is dropped becomes. */
const id = "dropped";

/** The catalog that is served, with what was dropped laid over it as a pack of its own: nothing is written. */
export async function catalogWith(url: string, part: DroppedPart): Promise<Catalog> {
  const { files, packs } = await listServed(url);
  const { main, included } = await contentsOf(url, files, "catalog.json");
  const source = { mantle: "pack/1", id, version: "0", over: Object(main).id, ...part.fragment };
  const laid = mergePacks([...(await packsAt(packs)), { source }]);
  const marked = pointImages(main, ...Object.values(included), ...laid.contents).filter((path) => files.includes(path));
  const pictures = new Map<string, PointImage>();
  for (const path of marked) {
    const bytes = new Uint8Array(await (await fetch(new URL(path, url))).arrayBuffer());
    pictures.set(path, extractPoints(decodePng(bytes)));
  }
  const tables = new Map([...part.tables].map(([path, table]) => [`packs/${id}/${path}`, table]));
  const { catalog, problems } = readCatalog(main, included, { pictures, tables, packs: laid });
  if (catalog === undefined)
    throw new Error(problems.map((problem) => describeProblem(problem, { ...messages, ...englishArt })).join(" "));
  return catalog;
}

/** The pictures of what was dropped, as they are found from the folder of the catalog. */
export function picturesOf(part: DroppedPart): ReadonlyMap<string, Image> {
  return new Map([...part.pictures].map(([path, image]) => [`packs/${id}/${path}`, image]));
}
