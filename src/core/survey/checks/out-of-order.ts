import { getOrInsert } from "../../base/get-or-insert.ts";
import { message } from "../../base/message.ts";
import { type ArtCheck, type ArtSign, ownerOf, seenOn } from "../art/art-check.ts";
import type { DrawnMask, FigureFacts, Series } from "../art/art-facts.ts";
import { grown, type Mask, overlap } from "../art/mask.ts";
import { maskAt } from "./floating.ts";

/** Facings, animations or frames that would fit the body much better if they were exchanged: clothes follow what they are worn on. */
export const outOfOrder: ArtCheck = {
  name: "out of order",
  *find(figure, bare) {
    if (figure.part === undefined) return;
    const owner = ownerOf(figure);
    for (const { path, series } of figure.layers) {
      if (!isFitted(series, bare)) continue;
      const sign = (cause: string, finding: ArtSign["finding"], fix: ArtSign["fix"], frame: DrawnMask): ArtSign => ({
        cause: `${cause} ${owner} ${path}`,
        owner,
        severity: "warning",
        path,
        finding,
        fix,
        at: seenOn(figure, frame),
      });
      const exchanged = exchangedSeries(series, bare);
      const [start] = exchanged?.one.frames ?? [];
      if (exchanged !== undefined && start !== undefined) {
        const names = (each: Series) => `${each.animation} ${each.facing}`;
        const params = { owner, one: names(exchanged.one), other: names(exchanged.other) };
        yield sign("series", message("series-exchanged", params), message("mend-series-exchanged"), start);
        continue;
      }
      for (const each of series) {
        const way = betterOrder(each, bare);
        const [frame] = each.frames;
        if (way === undefined || frame === undefined) continue;
        const params = { owner, animation: each.animation, facing: each.facing, order: orderOf(way) };
        yield sign(
          `frames ${each.animation}`,
          message("frames-exchanged", params),
          message("mend-frames-exchanged"),
          frame,
        );
      }
    }
  },
};

/** What share of its pixels lie off a body that does not fit it. */
const loose = 0.06;

/** How many pixels are too few to say where they belong. */
const little = 24;

/** How many pixels of each frame of a part lie off each frame of a body. */
function misfits(masks: readonly Mask[], bodies: readonly Mask[]): readonly (readonly number[])[] {
  return masks.map((mask) => bodies.map((body) => mask.count - overlap(mask, body)));
}

const grownMasks = new WeakMap<Mask, Mask>();

/** The body under a frame, and what lies close around it. */
function bodyAt(bare: FigureFacts, frame: DrawnMask): Mask {
  const mask = maskAt(bare, frame);
  return getOrInsert(grownMasks, mask, () => grown(mask));
}

function countOf(masks: readonly Mask[]): number {
  return masks.reduce((sum, mask) => sum + mask.count, 0);
}

/**
 * Whether an order fits where the one that was found does not. What fits a body covers it, nearly to the pixel, in its own order and in no
 * other; what hangs beside a body fits in none.
 *
 * @param count - the pixels of all frames.
 */
function isBetter(found: number, other: number, count: number): boolean {
  return other <= count * 0.01 && found >= count * loose && found - other >= 24;
}

/** Whether a layer covers the body nearly to the pixel in most of its series: what does not hangs beside it, and proves nothing. */
function isFitted(series: readonly Series[], bare: FigureFacts): boolean {
  const drawn = series.filter(({ frames }) => frames.some(({ mask }) => mask.count > 0));
  const fitted = drawn.filter(({ frames }) => {
    const masks = frames.map(({ mask }) => mask);
    const bodies = frames.map((frame) => bodyAt(bare, frame));
    return misfit(masks, bodies) <= countOf(masks) * 0.02;
  });
  return fitted.length > drawn.length * 0.7;
}

/** The frames in the order in which they should come. @param places - where each of them should be. */
function orderOf(places: readonly number[]): readonly string[] {
  return places.map((_, at) => String(places.indexOf(at)));
}

/** The places in which the frames of a series would fit the body much better than in their own. */
function betterOrder(series: Series, bare: FigureFacts): readonly number[] | undefined {
  const masks = series.frames.map(({ mask }) => mask);
  if (masks.length < 3 || masks.some(({ count }) => count < little)) return undefined;
  const off = misfits(
    masks,
    series.frames.map((frame) => bodyAt(bare, frame)),
  );
  const total = (order: readonly number[]) => order.reduce((sum, body, at) => sum + (off[at]?.[body] ?? 0), 0);
  const plain = masks.map((_, at) => at);
  const found = total(plain);
  if (found < countOf(masks) * loose) return undefined;
  const orders = [plain.toReversed(), ...plain.slice(1).map((by) => plain.map((at) => (at + by) % masks.length))];
  for (let one = 0; one < plain.length; one += 1)
    for (let other = one + 1; other < plain.length; other += 1)
      orders.push(plain.map((at) => (at === one ? other : at === other ? one : at)));
  const [best] = orders.toSorted((one, other) => total(one) - total(other));
  return best !== undefined && isBetter(found, total(best), countOf(masks)) ? best : undefined;
}

/** Two series of one part that would both fit better in the place of the other. */
function exchangedSeries(
  drawn: readonly Series[],
  bare: FigureFacts,
): { readonly one: Series; readonly other: Series } | undefined {
  const all = drawn.map((series) => {
    const masks = series.frames.map(({ mask }) => mask);
    const bodies = series.frames.map((frame) => bodyAt(bare, frame));
    return { series, masks, bodies, count: countOf(masks), found: misfit(masks, bodies) };
  });
  for (const [at, one] of all.entries())
    for (const other of all.slice(at + 1)) {
      if (one.series.animation !== other.series.animation && one.series.facing !== other.series.facing) continue;
      const count = one.count + other.count;
      const found = one.found + other.found;
      // Whatever fits well fits nowhere much better, and of little nobody can say where it fits.
      if (found < count * loose || count < little * (one.masks.length + other.masks.length)) continue;
      const [first, second] = [misfit(one.masks, other.bodies), misfit(other.masks, one.bodies)];
      const isBoth = first < one.found * 0.7 && second < other.found * 0.7;
      if (isBoth && isBetter(found, first + second, count)) return { one: one.series, other: other.series };
    }
  return undefined;
}

/** How many pixels lie off the body, if frames are put on its frames in their order. */
function misfit(masks: readonly Mask[], bodies: readonly Mask[]): number {
  return masks.reduce((sum, mask, at) => {
    const body = bodies[at % bodies.length];
    return body === undefined ? sum : sum + mask.count - overlap(mask, body);
  }, 0);
}
