import type { Problem } from "../core/base/problem.ts";
import { isBundle } from "../core/bundle/bundle.ts";
import type { Catalog, CatalogIds } from "../core/catalog/model/catalog.ts";
import { pointImages } from "../core/catalog/read/point-images.ts";
import { readCatalog } from "../core/catalog/read/read-catalog.ts";
import { badServedCatalog } from "./bad-served-catalog.ts";
import { type FetchedReading, fetchBundle } from "./fetch-bundle.ts";
import { fetchIncluded, fetchMarks, fetchTables } from "./fetch-files.ts";
import { type FreshImageLoader, imageLoader } from "./image-loader.ts";
import { packsFrom } from "./packs-from.ts";
import { type FolderOptions, ServedFolder, type ServedPack } from "./served-folder.ts";

export interface FetchCatalogOptions extends FolderOptions {
  /** Packs to lay over it, in any order. */
  readonly packs?: readonly ServedPack[];
}

/** A catalog that was fetched, and what draws it. */
export interface FetchedCatalog<Ids extends CatalogIds = CatalogIds> {
  readonly catalog: Catalog<Ids>;
  /** Fetches its pictures, for screens and painters. */
  readonly loader: FreshImageLoader;
  /** Warnings; a catalog with errors is not used. */
  readonly problems: readonly Problem[];
}

/**
 * Fetches a catalog that is served: a plain folder of `catalog.json`, the files it includes, and what marks points in its pictures; or the bundle that
 * `mantle pack` makes of one. Pictures themselves are fetched by the loader, when they are worn.
 *
 * @param url - of the folder, or of its `catalog.json`; relative to the page.
 * @throws MantleError `missing-file` without a `catalog.json`; `bad-catalog` with every problem where it cannot be used, and where files it includes did
 * not come, with those alone; `bad-bundle` for one that is cut short, or of another form. What `signal` was aborted with.
 * @example
 * const { catalog, loader } = await fetchCatalog("/saltmarsh/", { onProgress: ({ done, total }) => bar.set(done / total) })
 * await fetchCatalog("/saltmarsh/", { packs: [{ url: "/mods/festival/" }] })
 */
export async function fetchCatalog<Ids extends CatalogIds = CatalogIds>(
  url: string,
  options: FetchCatalogOptions = {},
): Promise<FetchedCatalog<Ids>> {
  const folder = new ServedFolder(url, options);
  const [main] = await folder.all(["catalog.json"], (path) => folder.json(path));
  const { loader, ...reading } = isBundle(main)
    ? await fetchBundle(folder, main, options.packs ?? [])
    : await fetchFolder(folder, main, options);
  const { catalog, problems } = reading;
  if (catalog === undefined || problems.some(({ severity }) => severity === "error"))
    throw await badServedCatalog(folder.base, problems);
  return { catalog: catalog as Catalog<Ids>, problems, loader };
}

async function fetchFolder(
  folder: ServedFolder,
  main: unknown,
  { files, packs: listed = [] }: FetchCatalogOptions,
): Promise<FetchedReading> {
  const included = await fetchIncluded(folder, "catalog.json", main, files);
  const packs = await (await packsFrom(listed))?.(folder);
  const contents = [...Object.values(included), ...(packs?.contents ?? [])];
  const pictures = await fetchMarks(folder, pointImages(main, ...contents));
  const known = { pictures, ...(packs && { packs }) };
  const first = readCatalog(main, included, known);
  const tables = first.catalog === undefined ? new Map() : await fetchTables(folder, first.catalog);
  const reading = tables.size === 0 ? first : readCatalog(main, included, { ...known, tables });
  return { ...reading, loader: imageLoader((path) => folder.urlOf(path)) };
}
