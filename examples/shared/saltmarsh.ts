import { type Catalog, catalogTitles, describeProblem, format, type Message, readCatalog } from "zealous-mantle";
import { extractPoints, type PointImage, pointImages } from "zealous-mantle/authoring";
import { imageLoader, indexedStore } from "zealous-mantle/browser";
import { messages as english } from "zealous-mantle/locales/en";
import { decodePng, marksFile } from "zealous-mantle/raster";

const root = "../../demo/saltmarsh/";
const files = import.meta.glob<unknown>(["../../demo/saltmarsh/**/*.json", "!../../demo/saltmarsh/**/*.marks.json"], {
  eager: true,
  import: "default",
});
const marks = import.meta.glob<PointImage>("../../demo/saltmarsh/**/*.marks.json", {
  eager: true,
  import: "default",
});
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

const titles = () => catalogTitles(catalog, "en");

/** What the library found or did, in words for players. */
export function inWords(...messages: readonly (Message | undefined)[]): string {
  return messages.map((message) => (message === undefined ? "" : format(message, english, titles()))).join(" ");
}

/** The demo catalog with parts that were imported, as if their file were among its own. */
export function openCatalogWith(fragment: object, tables: ReadonlyMap<string, unknown>): Promise<Catalog> {
  return openCatalog({ "parts/imported.json": fragment }, tables);
}

/** The bytes of a picture of the demo. */
export async function pictureBytes(path: string): Promise<Uint8Array> {
  const response = await fetch(pictures[root + path] ?? path);
  return new Uint8Array(await response.arrayBuffer());
}

async function openCatalog(
  more: Readonly<Record<string, object>> = {},
  tables: ReadonlyMap<string, unknown> = new Map(),
): Promise<Catalog> {
  const included = Object.entries(files).map(([path, content]) => [path.slice(root.length), content] as const);
  const main = Object.fromEntries(included)["catalog.json"];
  const parts = Object.fromEntries(included.filter(([path]) => path !== "catalog.json"));
  const marked = pointImages(main, ...Object.values(parts)).map(async (path) => [path, await marksOf(path)] as const);
  const { catalog, problems } = readCatalog(
    main,
    { ...parts, ...more },
    { pictures: new Map(await Promise.all(marked)), tables },
  );
  if (catalog === undefined) throw new Error(problems.map((problem) => describeProblem(problem, english)).join("\n"));
  return catalog;
}

/** What a picture marks: kept beside it, or read from its pixels where it is newer. */
async function marksOf(path: string): Promise<PointImage> {
  const bytes = await pictureBytes(path);
  return marks[root + marksFile(path, bytes)] ?? extractPoints(decodePng(bytes));
}
