import { getOrInsert } from "../../base/get-or-insert.ts";
import { message } from "../../base/message.ts";
import { type ArtCheck, type ArtSign, ownerOf, seenOn } from "../art/art-check.ts";
import type { DrawnMask, Series } from "../art/art-facts.ts";

/** How many pixels a layer shows in the frames beside one in which it should show something. */
const much = 24;

/** Frames that show nothing although those beside them do, and animations that show nothing although others do. */
export const blankFrames: ArtCheck = {
  name: "blank frames",
  *find(figure) {
    const owner = ownerOf(figure);
    for (const { path, series } of figure.layers) {
      const blank = new Map<string, DrawnMask[]>();
      const empty = new Map<string, DrawnMask[]>();
      for (const [number, each] of series.entries()) {
        const { animation, frames } = each;
        const whole = figure.series[number]?.frames ?? frames;
        // What a layer does not show, because it has passed behind, another layer of the part does.
        const own = frames.filter(
          (frame, at) => frame.mask.count === 0 && isDrawnBeside(frames, at) && isLess(whole, at),
        );
        if (own.length > 0) getOrInsert(blank, animation, () => []).push(...own);
        const [first] = frames;
        if (first !== undefined && isBlank(each) && isDrawnElsewhere(each, series) && isLessThere(each, figure.series))
          getOrInsert(empty, animation, () => []).push(first);
      }
      const sign = (finding: ArtSign["finding"], fix: ArtSign["fix"], [first]: readonly DrawnMask[]): ArtSign => ({
        cause: `${finding.code} ${owner} ${path} ${first?.animation}`,
        owner,
        severity: "warning",
        path,
        finding,
        fix,
        at: first && seenOn(figure, first),
      });
      for (const [animation, found] of blank) {
        const frames = found.map(({ facing, frame }) => `${facing} ${frame}`);
        yield sign(message("blank-frame", { owner, animation, frames }), message("mend-blank-frame"), found);
      }
      for (const [animation, found] of empty) {
        const facings = found.map(({ facing }) => facing);
        yield sign(message("blank-series", { owner, animation, facings }), message("mend-blank-series"), found);
      }
    }
  },
};

/** Whether the frames before and after, all around, show a good deal. */
function isDrawnBeside(frames: readonly DrawnMask[], at: number): boolean {
  const beside = [frames[(at + frames.length - 1) % frames.length], frames[(at + 1) % frames.length]];
  return beside.every((each) => (each?.mask.count ?? 0) >= much);
}

/** Whether the whole part shows less in a frame than in those beside it. */
function isLess(frames: readonly DrawnMask[], at: number): boolean {
  const beside = [frames[(at + frames.length - 1) % frames.length], frames[(at + 1) % frames.length]];
  const own = frames[at]?.mask.count ?? 0;
  return beside.every((each) => own < (each?.mask.count ?? 0) * 0.75);
}

/** Whether the whole part shows less in an animation and facing than in other animations. */
function isLessThere({ animation, facing }: Series, all: readonly Series[]): boolean {
  const mean = ({ frames }: Series) => frames.reduce((sum, { mask }) => sum + mask.count, 0) / frames.length;
  const own = all.find((each) => each.animation === animation && each.facing === facing);
  const others = all.filter((each) => each.facing === facing && each.animation !== animation);
  return own !== undefined && others.every((each) => mean(own) < mean(each) * 0.75);
}

function isBlank({ frames }: Series): boolean {
  return frames.every(({ mask }) => mask.count === 0);
}

/** Whether every other animation shows a good deal in this facing. */
function isDrawnElsewhere({ animation, facing }: Series, all: readonly Series[]): boolean {
  const others = all.filter((each) => each.facing === facing && each.animation !== animation);
  return others.length > 0 && others.every(({ frames }) => frames.every(({ mask }) => mask.count >= much));
}
