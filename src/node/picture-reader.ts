import { limits } from "../core/base/limits.ts";
import { message } from "../core/base/message.ts";
import { MantleError, type Problem } from "../core/base/problem.ts";
import type { Image } from "../core/raster/image.ts";
import { otherColors } from "../core/raster/png/color-space.ts";
import { CatalogFolder } from "./catalog-folder.ts";
import type { CatalogPlace } from "./catalog-place.ts";
import { decodePicture } from "./decode-picture.ts";

/** Reads pictures of a catalog folder to their end, and keeps what is wrong with their files. */
export class PictureReader {
  readonly #folder: CatalogFolder;
  readonly #problems = new Map<string, Problem>();

  constructor(folder: CatalogPlace) {
    this.#folder = new CatalogFolder(folder);
  }

  /** Pictures that cannot be read to their end, or are read otherwise than they say. */
  get problems(): readonly Problem[] {
    return [...this.#problems.values()];
  }

  /** @throws MantleError `unreadable-file` for one that may not be read. */
  async read(path: string): Promise<Image | undefined> {
    const bytes = await this.#folder.read(path, { bytes: limits.pictureBytes });
    if (bytes === undefined) return undefined;
    try {
      const image = decodePicture(path, bytes);
      const space = otherColors(bytes);
      if (space !== undefined) this.#problems.set(path, notSrgb(path, space));
      return image;
    } catch (error) {
      if (!(error instanceof MantleError)) throw error;
      this.#problems.set(path, {
        ...message("bad-picture", { reason: error.message.slice(path.length + 2) }),
        severity: "error",
        place: { file: path, pointer: "" },
        fixes: [{ code: "mend-bad-picture", params: {} }],
      });
      return undefined;
    }
  }
}

/** The finding about a picture that says its colors are not sRGB. */
export function notSrgb(file: string, space: string): Problem {
  const fixes = [{ code: "mend-colors-not-srgb", params: {} }] as const;
  return { ...message("colors-not-srgb", { space }), severity: "warning", place: { file, pointer: "" }, fixes };
}
