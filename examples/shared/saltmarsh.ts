import { type Catalog, describeProblem, markerPictures, readCatalog } from "zealous-mantle";
import { imageLoader, indexedStore } from "zealous-mantle/browser";

const root = "../../demo/saltmarsh/";
const files = import.meta.glob<unknown>("../../demo/saltmarsh/**/*.json", { eager: true, import: "default" });
const pictures = import.meta.glob<string>("../../demo/saltmarsh/**/*.png", {
  eager: true,
  query: "?url",
  import: "default",
});

/** The pictures of the demo catalog, fetched as they are needed. */
export const loader = imageLoader((path) => pictures[root + path]);

/** The demo catalog, bundled with the page. */
export const catalog: Catalog = await openCatalog();

/** Where every example keeps its characters. */
export const store = indexedStore("saltmarsh");

async function openCatalog(): Promise<Catalog> {
  const included = Object.entries(files).map(([path, content]) => [path.slice(root.length), content] as const);
  const main = Object.fromEntries(included)["catalog.json"];
  const parts = Object.fromEntries(included.filter(([path]) => path !== "catalog.json"));
  await loader.fetch(...markerPictures(main, ...Object.values(parts)));
  const { catalog, problems } = readCatalog(main, parts, { pictures: loader.images });
  if (catalog === undefined) throw new Error(problems.map(describeProblem).join("\n"));
  return catalog;
}
