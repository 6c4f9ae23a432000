import { joinRuns } from "../../art/gaps/find-regions.ts";
import { message } from "../../base/message.ts";
import { type ArtCheck, type ArtSign, ownerOf, place, seenOn } from "../art/art-check.ts";
import type { DrawnMask, LayerFacts } from "../art/art-facts.ts";
import { boundsOf, grown, type Mask, maskOfRuns, overlap, runsOf, shutIn } from "../art/mask.ts";
import { maskAt } from "./floating.ts";

/** How many pixels of a hole are more than the gap between an arm and a side. */
const large = 4;

/**
 * Holes in a part, in some frames and not in most, through which the body under it shows.
 *
 * Only holes of the whole part: a hand before a coat is a hole in the front of the coat, and its back layer knows it. And no edges: whether
 * a hem is meant to be longer than what is worn over it, pixels do not tell.
 */
export const showsThrough: ArtCheck = {
  name: "what shows through",
  *find(figure, bare) {
    if (figure.part === undefined) return;
    const owner = ownerOf(figure);
    const frames = figure.series.flatMap((each) => each.frames).filter(({ mask }) => mask.count > 0);
    const open = frames.flatMap((frame) => {
      const [hole] = holesOver(frame.mask, maskAt(bare, frame));
      return hole === undefined ? [] : [{ frame, hole }];
    });
    const torn = open.filter(({ hole }) => hole.count >= large);
    const [first] = torn;
    // What is open in many frames is open by nature: a sandal, the handle of a lantern.
    if (first === undefined || open.length * 16 > frames.length) return;
    const { x = 0, y = 0 } = boundsOf(first.hole) ?? {};
    yield {
      cause: `shows-through ${owner} ${first.frame.animation}`,
      owner,
      severity: "warning",
      path: figure.layers.toSorted((one, other) => near(other, first) - near(one, first))[0]?.path ?? "",
      finding: message("shows-through", {
        owner,
        ...place(first.frame),
        x,
        y,
        count: first.hole.count,
        frames: torn.length,
      }),
      fix: message("mend-shows-through"),
      at: seenOn(figure, first.frame, first.hole),
    } satisfies ArtSign;
  },
};

/** The small holes of a part in a frame that are for the most part before what is under it, the largest first. */
function holesOver(mask: Mask, under: Mask): readonly Mask[] {
  const open = shutIn(mask);
  if (overlap(open, under) === 0) return [];
  const holes = joinRuns(runsOf(open), mask.height, 0).flatMap(({ runs, count }) => {
    const hole = maskOfRuns(open, runs);
    const around = grown(hole);
    // A bay is not shut: something beside it is neither in it nor of the part.
    const isShut = around.count === count + overlap(around, mask);
    return isShut && count * 16 <= mask.count && overlap(hole, under) * 2 > count ? [hole] : [];
  });
  return holes.toSorted((one, other) => other.count - one.count);
}

/** How much of what is around a hole a layer shows. */
function near(layer: LayerFacts, { frame, hole }: { frame: DrawnMask; hole: Mask }): number {
  return overlap(grown(hole), maskAt(layer, frame));
}
