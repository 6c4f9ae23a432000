import { limits } from "../base/limits.ts";
import type { Problem } from "../base/problem.ts";
import { getOwn } from "../base/record.ts";
import type { Catalog } from "../catalog/model/catalog.ts";
import type { Look } from "../look/look.ts";
import type { Image } from "../raster/image.ts";
import { fitsBody } from "../rules/fits-body.ts";
import { type ArtSign, type FigureTrace, traceOf } from "./art/art-check.ts";
import { bareLook, type FigureFacts, partLook, picturesIn, seriesOf, together } from "./art/art-facts.ts";
import { drawSeen } from "./art/draw-seen.ts";
import { artChecks } from "./checks.ts";

/** A finding about pixels, and where it is seen. */
export interface ArtProblem extends Problem {
  /** The frame in which it is seen, at six times its size, with the pixels ringed; `undefined` when it was not asked for, or is in no frame. */
  readonly seen: Image | undefined;
}

export interface SurveyArtOptions {
  /** The ids of the parts to look at. @defaultValue all */
  readonly parts?: ReadonlySet<string>;
  /** Whether to draw where findings are seen. @defaultValue `false` */
  readonly draw?: boolean;
  /** Called after each part on each body, with how many are done. */
  readonly progress?: (done: number, total: number) => void;
}

/**
 * Looks at the pixels of every part on every body it fits: what is blank, cut off, in the wrong place or order, of a wrong color, or another
 * part's. One cause gives one finding. Pictures are asked for once a body, and not kept.
 *
 * @param load - gives a picture by its path; `undefined` for one that is not there or cannot be read, which `checkArt` and the reader find.
 */
export async function surveyArt(
  catalog: Catalog,
  load: (path: string) => Promise<Image | undefined>,
  { parts, draw = false, progress }: SurveyArtOptions = {},
): Promise<readonly ArtProblem[]> {
  const problems = new Map<string, ArtProblem>();
  const bodies = [...catalog.bodies.values()];
  const worn = bodies.flatMap((body) =>
    [...catalog.parts.values()].flatMap((part) => {
      const [slot] = part.slots;
      if (parts?.has(part.id) === false) return [];
      return slot === undefined || part.layers.length === 0 || !fitsBody(part, body.id) ? [] : [{ body, part, slot }];
    }),
  );
  let done = 0;
  for (const body of bodies) {
    const bare = await factsOf({ body, part: undefined, slot: undefined, look: bareLook(catalog, body) }, load);
    if (bare === undefined) continue;
    const note = (sign: ArtSign, { body: { allow: ofBody }, part }: Pick<FigureFacts, "body" | "part">) => {
      if (getOwn(part?.allow ?? ofBody, sign.finding.code) !== undefined) return;
      if (problems.has(sign.cause) || problems.size >= limits.findings) return;
      // Drawn at once: pictures are not kept.
      const seen = draw && sign.at !== undefined ? drawSeen(sign.at, bare) : undefined;
      problems.set(sign.cause, problemOf(sign, seen));
    };
    const traces: FigureTrace[] = [];
    const look = (figure: FigureFacts) => {
      for (const check of artChecks) for (const sign of check.find?.(figure, bare) ?? []) note(sign, figure);
      traces.push(traceOf(figure));
    };
    look(bare);
    for (const { part, slot } of worn.filter((each) => each.body === body)) {
      const figure = await factsOf({ body, part, slot, look: partLook(catalog, body, part, slot) }, load);
      if (figure !== undefined) look(figure);
      done += 1;
      progress?.(done, worn.length);
    }
    for (const check of artChecks)
      for (const sign of check.compare?.(traces) ?? []) note(sign, { body, part: catalog.parts.get(sign.owner) });
  }
  return [...problems.values()];
}

type Figure = Pick<FigureFacts, "body" | "part" | "slot" | "look">;

/** Draws a figure whole; `undefined` where a picture of it is not there. */
async function factsOf(
  figure: Figure,
  load: (path: string) => Promise<Image | undefined>,
): Promise<FigureFacts | undefined> {
  const images = new Map<string, Image>();
  for (const path of pathsOf(figure.look)) {
    const image = await load(path);
    if (image === undefined) return undefined;
    images.set(path, image);
  }
  const layers = figure.look.layers.map((layer) => ({
    path: layer.images[0] ?? "",
    series: seriesOf({ ...figure.look, layers: [layer] }, images),
  }));
  return { ...figure, series: together(layers, []), layers, pictures: picturesIn(figure.look, images) };
}

function pathsOf({ layers }: Look): ReadonlySet<string> {
  return new Set(layers.flatMap(({ images }) => images));
}

function problemOf({ severity, path, finding, fix }: ArtSign, seen: Image | undefined): ArtProblem {
  return { ...finding, severity, place: { file: path, pointer: "" }, fixes: [fix], seen };
}
