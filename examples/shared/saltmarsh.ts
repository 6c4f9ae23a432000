import { type Catalog, describeProblem, readCatalog } from "zealous-mantle";
import { imageLoader, indexedStore } from "zealous-mantle/browser";

const root = "../../demo/saltmarsh/";
const files = import.meta.glob<unknown>("../../demo/saltmarsh/**/*.json", { eager: true, import: "default" });
const pictures = import.meta.glob<string>("../../demo/saltmarsh/**/*.png", {
  eager: true,
  query: "?url",
  import: "default",
});

/** The demo catalog, bundled with the page. */
export const catalog: Catalog = openCatalog();

/** The pictures of the demo catalog, fetched as they are needed. */
export const loader = imageLoader((path) => pictures[root + path]);

/** Where every example keeps its characters. */
export const store = indexedStore("saltmarsh");

function openCatalog(): Catalog {
  const included = Object.entries(files).map(([path, content]) => [path.slice(root.length), content] as const);
  const main = Object.fromEntries(included)["catalog.json"];
  const parts = Object.fromEntries(included.filter(([path]) => path !== "catalog.json"));
  const { catalog, problems } = readCatalog(main, parts);
  if (catalog === undefined) throw new Error(problems.map(describeProblem).join("\n"));
  return catalog;
}
