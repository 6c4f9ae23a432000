import { getOrInsert } from "../base/get-or-insert.ts";
import type { Progress } from "../base/progress.ts";
import { utf8Bytes } from "../base/sha256.ts";
import type { Catalog, Rectangle } from "../catalog/model/catalog.ts";
import type { PackFiles } from "../catalog/packs/pack-files.ts";
import type { PointImage } from "../catalog/read/point-images.ts";
import { layersOnBodies } from "../look/check-art.ts";
import { drawnArt } from "../look/look-layer.ts";
import { cropImage, type Image } from "../raster/image.ts";
import { packPictures } from "../raster/pack-pictures.ts";
import { encodePng } from "../raster/png/encode-png.ts";
import { visibleBounds } from "../raster/visible-bounds.ts";
import { type BundleContents, type BundleIndex, type BundlePage, bundleFile, bundleForm } from "./bundle.ts";

/** A catalog, and what it was read from. */
export interface BundleSources {
  readonly catalog: Catalog;
  readonly main: unknown;
  readonly included: Readonly<Record<string, unknown>>;
  readonly marks: ReadonlyMap<string, PointImage>;
  readonly tables: ReadonlyMap<string, unknown>;
  readonly packs: readonly PackFiles[];
}

/** Width and height of the largest page, in pixels. */
const largestPage = 4096;

/**
 * Packs a catalog into few files: its JSON in one, and all that is drawn of the pictures of each body in one more, without what is blank.
 *
 * Only cells that layers show are kept of a picture. Pictures of several bodies are packed apart, so that nobody fetches the art of a body for
 * them.
 *
 * @param readPicture - a picture of the catalog; each is asked for once, and not kept.
 * @param onProgress - is called after each picture.
 * @returns files by their paths; `catalog.json` comes last, and is to be written last, since it names the others.
 */
export async function packBundle(
  { catalog, main, included, marks, tables, packs }: BundleSources,
  readPicture: (path: string) => Promise<Image | undefined>,
  onProgress?: (progress: Progress) => void,
): Promise<ReadonlyMap<string, Uint8Array>> {
  const files = new Map<string, Uint8Array>();
  const add = (bytes: Uint8Array, ending: string): string => {
    const file = bundleFile(bytes, ending);
    files.set(file, bytes);
    return file;
  };
  const used = usedPictures(catalog);
  const groups = new Map<string, SlicedImage[]>();
  let done = 0;
  for (const [path, { cells, bodies }] of used) {
    const image = await readPicture(path);
    const [only = ""] = bodies.size === 1 ? bodies : [];
    if (image !== undefined) getOrInsert(groups, only, () => []).push(cutPicture(path, image, [...cells.values()]));
    done += 1;
    onProgress?.({ done, total: used.size });
  }
  const pages = [...groups.values()].flatMap((pictures) => packGroup(pictures, add));
  const contents: BundleContents = {
    mantle: bundleForm,
    main,
    included,
    marks: Object.fromEntries(marks),
    tables: Object.fromEntries(tables),
    ...(packs.length === 0 ? {} : { packs }),
    pages,
  };
  const { id, version } = catalog;
  const index: BundleIndex = { mantle: bundleForm, id, version, contents: add(inJson(contents), ".json") };
  files.set("catalog.json", inJson(index));
  return files;
}

/** A picture as layers use it. */
interface Used {
  readonly cells: Map<string, Rectangle>;
  readonly bodies: Set<string>;
}

function usedPictures(catalog: Catalog): ReadonlyMap<string, Used> {
  const used = new Map<string, Used>();
  for (const { layer, body } of layersOnBodies(catalog)) {
    const { images, art } = drawnArt(layer, body, catalog.tables);
    for (const [number, path] of images.entries()) {
      const { cells, bodies } = getOrInsert(used, path, () => ({ cells: new Map(), bodies: new Set() }));
      bodies.add(body.artName);
      for (const cell of art.pictures[number]?.cells ?? [])
        cells.set(`${cell.x} ${cell.y} ${cell.width} ${cell.height}`, cell);
    }
  }
  return used;
}

/** What is drawn of a picture, cell by cell. */
interface SlicedImage {
  readonly path: string;
  readonly size: readonly [width: number, height: number];
  readonly cells: readonly { readonly at: Rectangle; readonly picture: Image }[];
}

function cutPicture(path: string, image: Image, cells: readonly Rectangle[]): SlicedImage {
  const cut = cells.flatMap((cell) => {
    const at = visibleBounds(image, cell);
    return at === undefined ? [] : [{ at, picture: cropImage(image, at) }];
  });
  return { path, size: [image.width, image.height], cells: cut };
}

function packGroup(
  pictures: readonly SlicedImage[],
  add: (bytes: Uint8Array, ending: string) => string,
): readonly BundlePage[] {
  const cells = pictures.flatMap(({ path, size, cells: own }) => own.map((cell) => ({ path, size, ...cell })));
  const packed = packPictures(
    cells.map(({ picture }) => picture),
    { size: largestPage, gap: 0 },
  );
  const listed = packed.pages.map((): Record<string, number[]> => ({}));
  for (const [number, { path, size, at }] of cells.entries()) {
    const place = packed.places[number];
    const list = listed[place?.page ?? 0];
    if (place === undefined || list === undefined) continue;
    list[path] ??= [...size];
    list[path].push(at.x, at.y, at.width, at.height, place.x, place.y);
  }
  // One in which nothing shows is on the first page, so that it is known how large it is.
  for (const { path, size, cells: own } of pictures) if (own.length === 0 && listed[0]) listed[0][path] = [...size];
  return packed.pages.map((image, page) => ({
    image: add(encodePng(image), ".png"),
    cells: add(inJson(listed[page]), ".json"),
    pictures: Object.keys(listed[page] ?? {}),
  }));
}

function inJson(value: unknown): Uint8Array {
  return utf8Bytes(JSON.stringify(value));
}
