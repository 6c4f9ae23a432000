import { type Catalog, describeProblem, readCatalog } from "zealous-mantle";
import { messages } from "zealous-mantle/locales/en";
import { ModelCache, openModelRenderer } from "zealous-mantle/three";

const root = "../../demo/saltmarsh-3d/";
const files = import.meta.glob<unknown>("../../demo/saltmarsh-3d/**/*.json", { eager: true, import: "default" });
const models = import.meta.glob<string>("../../demo/saltmarsh-3d/**/*.glb", {
  eager: true,
  query: "?url",
  import: "default",
});

/** The demo catalog in three dimensions: the same ids as the one of the pictures, so that a character is shown by both. */
export const catalog: Catalog = openCatalog();

/** What all figures of the page share. */
export const shelf = new ModelCache(
  async (path) => {
    const response = await fetch(models[root + path] ?? path);
    if (!response.ok) throw new Error(`${path} could not be fetched: the server answered ${response.status}.`);
    return new Uint8Array(await response.arrayBuffer());
  },
  { shading: "ramps" },
);

export const snapshots = openModelRenderer(shelf);

function openCatalog(): Catalog {
  const included = Object.entries(files).map(([path, content]) => [path.slice(root.length), content] as const);
  const { "catalog.json": main, ...others } = Object.fromEntries(included);
  const { catalog: read, problems } = readCatalog(main, others as Record<string, object>);
  if (read === undefined) throw new Error(problems.map((problem) => describeProblem(problem, messages)).join("\n"));
  return read;
}
