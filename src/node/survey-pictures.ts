import { limits } from "../core/base/limits.ts";
import { message } from "../core/base/message.ts";
import { MantleError, type Problem } from "../core/base/problem.ts";
import type { Catalog } from "../core/catalog/model/catalog.ts";
import type { Image } from "../core/raster/image.ts";
import { otherColors } from "../core/raster/png/color-space.ts";
import { decodeNamedPng } from "../core/raster/png/decode-named-png.ts";
import { type ArtProblem, type SurveyArtOptions, surveyArt } from "../core/survey/survey-art.ts";
import { CatalogFolder } from "./catalog-folder.ts";

/** What the pixels of a catalog folder show to be wrong. */
export interface PictureSurvey {
  readonly problems: readonly ArtProblem[];
  /** Pictures that cannot be read to their end, or are read otherwise than they say. */
  readonly unreadable: readonly Problem[];
}

/**
 * Looks at the pixels of a catalog: reads every picture that a layer shows, one part after the other.
 *
 * @throws MantleError `unreadable-file` for one that may not be read.
 */
export async function surveyPictures(
  folder: string,
  catalog: Catalog,
  options: SurveyArtOptions = {},
): Promise<PictureSurvey> {
  const place = new CatalogFolder(folder);
  const unreadable = new Map<string, Problem>();
  const load = async (path: string): Promise<Image | undefined> => {
    const bytes = await place.read(path, { bytes: limits.pictureBytes });
    if (bytes === undefined) return undefined;
    try {
      const image = decodeNamedPng(path, bytes);
      const space = otherColors(bytes);
      if (space !== undefined) unreadable.set(path, notSrgb(path, space));
      return image;
    } catch (error) {
      if (!(error instanceof MantleError)) throw error;
      unreadable.set(path, {
        ...message("bad-picture", { reason: error.message.slice(path.length + 2) }),
        severity: "error",
        place: { file: path, pointer: "" },
        fixes: [{ code: "mend-bad-picture", params: {} }],
      });
      return undefined;
    }
  };
  const problems = await surveyArt(catalog, load, options);
  return { problems, unreadable: [...unreadable.values()] };
}

/** The finding about a picture that says its colors are not sRGB. */
export function notSrgb(file: string, space: string): Problem {
  const fixes = [{ code: "mend-colors-not-srgb", params: {} }] as const;
  return { ...message("colors-not-srgb", { space }), severity: "warning", place: { file, pointer: "" }, fixes };
}
