import type { SlicedImage } from "../core/catalog/model/catalog.ts";
import type { Look } from "../core/look/look.ts";
import type { Image, Images } from "../core/raster/image.ts";
import { sheetOf } from "../core/raster/sheet.ts";
import { decodePicture } from "./decode-picture.ts";
import { fetchFile } from "./fetch-file.ts";

/** Fetches pictures as looks need them, each once. */
export interface ImageLoader {
  /** Every picture fetched so far; grows as looks are loaded. */
  readonly images: Images;
  /**
   * Resolves when every picture of the looks is there.
   *
   * @throws MantleError `missing-picture` when one cannot be fetched, with its address and what came; `bad-picture` when it is not a PNG.
   */
  load(...looks: readonly Look[]): Promise<void>;
  /** Resolves when pictures are there, by their paths; throws as `load` does. */
  fetch(...paths: readonly string[]): Promise<void>;
  /** Grows when pictures that were there have changed, so that what was drawn of them is to be drawn again. @defaultValue `0` */
  readonly version?: number;
}

/** A loader whose pictures may change on the server. */
export interface FreshImageLoader extends ImageLoader {
  readonly version: number;
  /** Fetches every picture anew that is there, and shows the new ones when all have come; those that are gone are dropped. */
  refresh(): Promise<void>;
}

/**
 * Makes a loader for the pictures of a catalog.
 *
 * Pixels are decoded here, not by the canvas, which would round translucent ones.
 *
 * @param urlOf - where a picture of the catalog folder is served; `undefined` when it is not.
 * @example
 * const loader = imageLoader((path) => `/saltmarsh/${path}`)
 * await loader.load(look)
 */
export function imageLoader(urlOf: (path: string) => string | undefined): FreshImageLoader {
  return loaderOf((path) => fetchPicture(path, urlOf(path)));
}

/** Prepares a picture that is cut into cells for drawing. */
type Prepare = (image: Image, cut: SlicedImage, blank: number | undefined) => unknown;

/** Makes a loader of what fetches a single picture, and prepares it. */
export function loaderOf(fetchOne: (path: string) => Promise<Image>, prepare: Prepare = sheetOf): FreshImageLoader {
  const images = new Map<string, Image>();
  const fetching = new Map<string, Promise<void>>();
  let version = 0;
  const fetchOnce = (path: string): Promise<void> => {
    const under = fetching.get(path);
    if (under !== undefined) return under;
    const started = fetchOne(path).then((image) => void images.set(path, image));
    fetching.set(path, started);
    // A failed fetch may be tried again.
    started.catch(() => fetching.delete(path));
    return started;
  };
  return Object.freeze<FreshImageLoader>({
    images,
    async load(...looks) {
      const layers = looks.flatMap((look) => look.layers);
      await Promise.all(
        layers.flatMap(({ images: paths, art, blank }) =>
          paths.map(async (path, number) => {
            await fetchOnce(path);
            const [picture, cut] = [images.get(path), art.pictures[number]];
            // Prepared as each arrives, so that painting a figure for the first time does not wait for all of its layers at once.
            if (picture !== undefined && cut !== undefined) prepare(picture, cut, blank);
          }),
        ),
      );
    },
    async fetch(...paths) {
      await Promise.all(paths.map(fetchOnce));
    },
    async refresh() {
      const paths = [...images.keys()];
      const fetched = await Promise.allSettled(paths.map(fetchOne));
      for (const [at, path] of paths.entries()) {
        const came = fetched[at];
        if (came?.status === "fulfilled") images.set(path, came.value);
        else {
          images.delete(path);
          fetching.delete(path);
        }
      }
      version += 1;
    },
    get version() {
      return version;
    },
  });
}

/** Fetches one picture. @param url - where it is served; `undefined` where it is not. */
export async function fetchPicture(path: string, url: string | undefined): Promise<Image> {
  return decodePicture(path, await fetchFile(path, url, { code: "missing-picture" }));
}
