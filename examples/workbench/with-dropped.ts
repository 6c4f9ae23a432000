import { type Catalog, describeProblem, type Image, readCatalog } from "zealous-mantle";
import { decodePng, findMarks, type MarkerPicture, markerPictures } from "zealous-mantle/authoring";
import { type FreshImageLoader, listServed } from "zealous-mantle/browser";
import { english } from "zealous-mantle/english";
import { englishArt } from "zealous-mantle/english/art";
import { layPacks } from "zealous-mantle/packs";
import type { DroppedPart } from "./dropped.ts";
import { contentsOf, packsAt } from "./served-contents.ts";

/** The pack that what is dropped becomes. */
const id = "dropped";

/** The catalog that is served, with what was dropped laid over it as a pack of its own: nothing is written. */
export async function catalogWith(url: string, part: DroppedPart): Promise<Catalog> {
  const { files, packs } = await listServed(url);
  const { main, included } = await contentsOf(url, files, "catalog.json");
  const source = { mantle: "pack/1", id, version: "0", over: Object(main).id, ...part.fragment };
  const laid = layPacks([...(await packsAt(packs)), { source }]);
  const marked = markerPictures(main, ...Object.values(included), ...laid.contents).filter((path) =>
    files.includes(path),
  );
  const pictures = new Map<string, MarkerPicture>();
  for (const path of marked) {
    const bytes = new Uint8Array(await (await fetch(new URL(path, url))).arrayBuffer());
    pictures.set(path, findMarks(decodePng(bytes)));
  }
  const tables = new Map([...part.tables].map(([path, table]) => [`packs/${id}/${path}`, table]));
  const { catalog, problems } = readCatalog(main, included, { pictures, tables, packs: laid });
  if (catalog === undefined)
    throw new Error(problems.map((problem) => describeProblem(problem, { ...english, ...englishArt })).join(" "));
  return catalog;
}

/** A loader that has the pictures of what was dropped besides. */
export function loaderWith(loader: FreshImageLoader, part: DroppedPart): FreshImageLoader {
  const own = new Map([...part.pictures].map(([path, image]) => [`packs/${id}/${path}`, image]));
  const images = new Map<string, Image>(own);
  const fetchAll = async (...paths: readonly string[]) => {
    const missing = paths.filter((path) => !own.has(path));
    await loader.fetch(...missing);
    for (const path of missing) {
      const image = loader.images.get(path);
      if (image !== undefined) images.set(path, image);
    }
  };
  return {
    images,
    get version() {
      return loader.version;
    },
    fetch: fetchAll,
    load: (...looks) => fetchAll(...looks.flatMap(({ layers }) => layers.flatMap((layer) => layer.images))),
    refresh: () => loader.refresh(),
  };
}
