import { type Catalog, describeProblem, format, type Message, readCatalog, titlesIn } from "zealous-mantle";
import { decodePng, findMarks, type MarkerPicture, markerPictures, marksFile } from "zealous-mantle/authoring";
import { imageLoader, indexedStore } from "zealous-mantle/browser";
import { english } from "zealous-mantle/english";

const root = "../../demo/saltmarsh/";
const files = import.meta.glob<unknown>(["../../demo/saltmarsh/**/*.json", "!../../demo/saltmarsh/**/*.marks.json"], {
  eager: true,
  import: "default",
});
const marks = import.meta.glob<MarkerPicture>("../../demo/saltmarsh/**/*.marks.json", {
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

const titles = () => titlesIn(catalog, "en");

/** What the library found or did, in words for players. */
export function inWords(...messages: readonly (Message | undefined)[]): string {
  return messages.map((message) => (message === undefined ? "" : format(message, english, titles()))).join(" ");
}

async function openCatalog(): Promise<Catalog> {
  const included = Object.entries(files).map(([path, content]) => [path.slice(root.length), content] as const);
  const main = Object.fromEntries(included)["catalog.json"];
  const parts = Object.fromEntries(included.filter(([path]) => path !== "catalog.json"));
  const marked = markerPictures(main, ...Object.values(parts)).map(
    async (path) => [path, await marksOf(path)] as const,
  );
  const { catalog, problems } = readCatalog(main, parts, { pictures: new Map(await Promise.all(marked)) });
  if (catalog === undefined) throw new Error(problems.map((problem) => describeProblem(problem, english)).join("\n"));
  return catalog;
}

/** What a picture marks: kept beside it, or read from its pixels where it is newer. */
async function marksOf(path: string): Promise<MarkerPicture> {
  const response = await fetch(pictures[root + path] ?? path);
  const bytes = new Uint8Array(await response.arrayBuffer());
  return marks[root + marksFile(path, bytes)] ?? findMarks(decodePng(bytes));
}
