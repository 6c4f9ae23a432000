import { MantleError } from "../core/base/problem.ts";
import {
  type BundleContents,
  type BundlePage,
  badBundle,
  bundleForm,
  type PageCells,
  readIndex,
  requireContent,
} from "../core/bundle/bundle.ts";
import { type OpenPage, pagePixels, prepareUnpacked, unpackPicture } from "../core/bundle/unpack-picture.ts";
import { pointImages } from "../core/catalog/read/point-images.ts";
import type { Reading } from "../core/catalog/read/read-catalog.ts";
import { readCatalog } from "../core/catalog/read/read-catalog.ts";
import { namedBytes } from "../core/raster/content-hash.ts";
import { decodePage } from "./decode-picture.ts";
import { fetchMarks, fetchTables } from "./fetch-files.ts";
import type { FreshImageLoader } from "./image-loader.ts";
import { fetchPicture, loaderOf } from "./image-loader.ts";
import { packsFrom } from "./packs-from.ts";
import type { ServedFolder, ServedPack } from "./served-folder.ts";

/** What was read, and what fetches the pictures. */
export type FetchedReading = Reading & { readonly loader: FreshImageLoader };

/**
 * Fetches a catalog that was packed into few files, and the packs that are laid over it besides those in the bundle. Of its pages, those are fetched that somebody wears something of.
 *
 * @throws MantleError `bad-bundle` where a file is missing or is not as it was packed, or the bundle is of another form.
 */
export async function fetchBundle(
  folder: ServedFolder,
  main: { readonly mantle: string },
  listed: readonly ServedPack[],
): Promise<FetchedReading> {
  const { contents } = readIndex(main);
  const [packed] = await folder.all([contents], (file) => fetchJson<BundleContents>(folder, file));
  if (packed === undefined || !isContents(packed)) throw badBundle(`"${contents}" is not what its catalog.json says`);
  const { included, marks, tables, pages } = packed;
  const packs = await (await packsFrom(listed, packed.packs))?.(folder);
  const isFetched = (path: string) => folder.isOfPack(path);
  const marked = await fetchMarks(folder, pointImages(packed.main, ...(packs?.contents ?? [])).filter(isFetched));
  const known = {
    pictures: new Map([...Object.entries(marks), ...marked]),
    tables: new Map(Object.entries(tables)),
    ...(packs && { packs }),
  };
  const first = readCatalog(packed.main, included, known);
  const more =
    listed.length === 0 || first.catalog === undefined
      ? new Map()
      : await fetchTables(folder, first.catalog, isFetched);
  const reading =
    more.size === 0
      ? first
      : readCatalog(packed.main, included, { ...known, tables: new Map([...known.tables, ...more]) });
  const opening = new Map<BundlePage, Promise<OpenPage>>();
  const open = (page: BundlePage): Promise<OpenPage> => {
    const under = opening.get(page) ?? openPage(folder, page);
    opening.set(page, under);
    // What failed may be tried again.
    under.catch(() => opening.delete(page));
    return under;
  };
  const pagesOf = new Map<string, BundlePage[]>();
  for (const page of pages) for (const path of page.pictures) pagesOf.set(path, [...(pagesOf.get(path) ?? []), page]);
  const loader = loaderOf(async (path) => {
    const own = pagesOf.get(path);
    if (isFetched(path)) return fetchPicture(path, folder.urlOf(path));
    if (own === undefined) throw new MantleError("missing-picture", `The bundle has no picture "${path}".`);
    return unpackPicture(path, await Promise.all(own.map(open)));
  }, prepareUnpacked);
  return { ...reading, loader };
}

function isContents({ mantle, included, marks, tables, pages }: BundleContents): boolean {
  const isMap = (value: unknown) => typeof value === "object" && value !== null;
  return mantle === bundleForm && isMap(included) && isMap(marks) && isMap(tables) && Array.isArray(pages);
}

async function openPage(folder: ServedFolder, { image, cells }: BundlePage): Promise<OpenPage> {
  const [pixels, places] = await Promise.all([fetchWhole(folder, image), fetchJson<PageCells>(folder, cells)]);
  return { pixels: pagePixels(await decodePage(image, pixels)), cells: places };
}

/** A file of the bundle that holds JSON; its content is that which was packed, so that its form is, too. */
async function fetchJson<Content>(folder: ServedFolder, file: string): Promise<Content> {
  return JSON.parse(new TextDecoder().decode(await fetchWhole(folder, file)));
}

/** SHA-256 by the browser where it can, which is much faster; it does so in secure contexts alone. */
async function digestOf(bytes: Uint8Array): Promise<Uint8Array | undefined> {
  const named = namedBytes(bytes) as Uint8Array<ArrayBuffer>;
  const digest = await globalThis.crypto?.subtle?.digest("SHA-256", named);
  return digest && new Uint8Array(digest);
}

async function fetchWhole(folder: ServedFolder, file: string): Promise<Uint8Array> {
  const bytes = await folder.bytes(file).catch((error: unknown) => {
    if (!(error instanceof MantleError)) throw error;
    throw badBundle(`it is stale, or not all of it is served. ${error.message}`.replace(/\.$/, ""));
  });
  requireContent(file, bytes, await digestOf(bytes));
  return bytes;
}
