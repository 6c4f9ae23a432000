import { availableParallelism } from "node:os";
import type { Problem } from "../core/base/problem.ts";
import type { Catalog, Rig } from "../core/catalog/model/catalog.ts";
import { type ArtProblem, figureGroups, type SurveyArtOptions, surveyArt } from "../core/survey/survey-art.ts";
import type { CatalogPlace } from "./catalog-place.ts";
import { PictureReader } from "./picture-reader.ts";
import { SurveyThreads } from "./survey-threads.ts";

/** What the pixels of a catalog folder show to be wrong. */
export interface PictureSurvey {
  readonly problems: readonly ArtProblem[];
  /** Pictures that cannot be read to their end, or are read otherwise than they say. */
  readonly unreadable: readonly Problem[];
}

/** How many pixels are looked at in one thread: more are worth the time that others need to start. */
const few = 16_000_000;

/**
 * Looks at the pixels of a catalog: reads every picture that a layer shows, one part after the other, in several threads if there are
 * more than a few million pixels.
 *
 * @throws MantleError `unreadable-file` for one that may not be read.
 */
export async function surveyPictures(
  folder: CatalogPlace,
  catalog: Catalog,
  options: Omit<SurveyArtOptions, "lookers"> = {},
): Promise<PictureSurvey> {
  const unreadable = new Map<string, Problem>();
  const note = (problems: readonly Problem[]) => {
    for (const problem of problems) unreadable.set(problem.place.file ?? "", problem);
  };
  const reader = new PictureReader(folder);
  const load = (path: string) => reader.read(path);
  const groups = figureGroups(catalog, options.parts);
  const pixels = groups.reduce((sum, { body, parts }) => {
    const rig = catalog.bodies.get(body)?.rig;
    return sum + (rig === undefined ? 0 : pixelsOf(rig)) * parts.length;
  }, 0);
  const count = Math.min(availableParallelism(), groups.length);
  if (pixels <= few || count < 2) {
    const problems = await surveyArt(catalog, load, options);
    return { problems, unreadable: reader.problems };
  }
  const threads = new SurveyThreads(folder, count);
  try {
    const problems = await surveyArt(catalog, load, { ...options, lookers: threads.lookers(note) });
    return { problems, unreadable: [...unreadable.values()] };
  } finally {
    await threads.close();
  }
}

/** The pixels of one picture of a rig. */
function pixelsOf({ frame, animations, facings }: Rig): number {
  const drawn = [...facings.values()].filter(({ mirrored }) => !mirrored).length;
  const frames = [...animations.values()].reduce((sum, each) => sum + each.frames, 0);
  return frame.width * frame.height * frames * drawn;
}
