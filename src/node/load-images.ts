import { limits } from "../core/base/limits.ts";
import { MantleError } from "../core/base/problem.ts";
import type { Look } from "../core/look/look.ts";
import type { Image, Images } from "../core/raster/image.ts";
import { CatalogFolder } from "./catalog-folder.ts";
import type { CatalogPlace } from "./catalog-place.ts";
import { decodePicture } from "./decode-picture.ts";

/**
 * Loads the pictures that looks need from the folder of a catalog, or of its packs, each once.
 *
 * @param known - pictures that were loaded before; those are not read again.
 * @throws MantleError `unreadable-file` or `bad-picture`, naming the file.
 * @example
 * const images = await loadImages("saltmarsh", [look])
 */
export async function loadImages(
  folder: CatalogPlace,
  looks: readonly Look[],
  known: Images = new Map(),
): Promise<Images> {
  const images = new Map<string, Image>();
  const place = new CatalogFolder(folder);
  for (const path of new Set(looks.flatMap(({ layers }) => layers.flatMap(({ images }) => images)))) {
    const before = known.get(path);
    if (before !== undefined) {
      images.set(path, before);
      continue;
    }
    const bytes = await place.read(path, { bytes: limits.pictureBytes });
    if (bytes === undefined)
      throw new MantleError(
        "unreadable-file",
        `The picture ${path} cannot be read: there is no such file. Ask mantle check what else is missing.`,
      );
    images.set(path, decodePicture(path, bytes));
  }
  return images;
}
