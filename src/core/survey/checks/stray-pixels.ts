import { joinRuns } from "../../art/gaps/find-regions.ts";
import { formatColor } from "../../base/color/color.ts";
import { message } from "../../base/message.ts";
import type { Rectangle } from "../../catalog/model/catalog.ts";
import { type Sheet, swapRedAndBlue } from "../../raster/sheet.ts";
import { type ArtCheck, type ArtSign, ownerOf, place, seenOn } from "../art/art-check.ts";
import type { DrawnMask, FigureFacts } from "../art/art-facts.ts";
import { grown, type Mask, maskOfRuns, overlap, runsOf } from "../art/mask.ts";
import { maskAt } from "./floating.ts";

/** Islands that are in one frame and in none beside it, and patches of one color that were not erased. */
export const strayPixels: ArtCheck = {
  name: "stray pixels",
  *find(figure, bare) {
    const owner = ownerOf(figure);
    for (const layer of figure.layers) {
      const others = [bare, ...figure.layers].filter((each) => each !== layer && figure !== bare);
      for (const { animation, facing, frames } of layer.series) {
        const islands = frames.map((frame) => islandsOf(frame, others));
        const lone = frames.filter((_, at) => (islands[at]?.length ?? 0) > 0);
        const [first] = lone;
        if (first === undefined || lone.length > Math.max(1, frames.length / 4) || frames.length < 2) continue;
        const [island] = islands[frames.indexOf(first)] ?? [];
        if (island === undefined) continue;
        yield {
          cause: `stray-pixels ${owner} ${layer.path} ${animation} ${facing}`,
          owner,
          severity: "warning",
          path: layer.path,
          finding: message("stray-pixels", {
            owner,
            ...place(first),
            x: island.x,
            y: island.y,
            count: island.mask.count,
          }),
          fix: message("mend-stray-pixels"),
          at: seenOn(figure, first, island.mask),
        } satisfies ArtSign;
      }
    }
    for (const { path, sheet, layer } of figure.pictures) {
      const patch = patchIn(sheet, layer.art.pictures[layer.images.indexOf(path)]?.cells ?? []);
      if (patch === undefined) continue;
      yield {
        cause: `patch-left ${owner} ${path}`,
        owner,
        severity: "warning",
        path,
        finding: message("patch-left", { owner, ...patch }),
        fix: message("mend-patch-left", { color: patch.color }),
        at: undefined,
      } satisfies ArtSign;
    }
  },
};

/** How far from everything else an island lies, in pixels. */
const alone = 3;

function islandsOf(
  frame: DrawnMask,
  others: readonly Pick<FigureFacts, "series">[],
): readonly { x: number; y: number; mask: Mask }[] {
  const regions = joinRuns(runsOf(frame.mask), frame.mask.height, alone);
  if (regions.length < 2) return [];
  const largest = Math.max(...regions.map(({ count }) => count));
  return regions.flatMap(({ x, y, runs, count }) => {
    if (count * 8 > largest) return [];
    const mask = maskOfRuns(frame.mask, runs);
    const close = grown(grown(mask));
    const isOn = others.some((other) => overlap(close, maskAt(other, frame)) > 0);
    return isOn ? [] : [{ x, y, mask }];
  });
}

/** A rectangle of one color, of at least eight by eight pixels, that stands by itself. */
function patchIn({ cells, table }: Sheet, places: readonly Rectangle[]): Patch | undefined {
  const { runs, starts, firsts, indices } = cells;
  for (const [cell, place] of places.entries()) {
    let packed = firsts[cell] as number;
    // What stands by itself is one run in each of its rows.
    let [column, length, rows, first, last] = [-1, 0, 0, 0, -2];
    for (let run = starts[cell] as number; run < (starts[cell + 1] as number); run += 3) {
      const [y, from, long] = [runs[run] as number, runs[run + 1] as number, Math.abs(runs[run + 2] as number)];
      const goesOn = y === last + 1 && from === column && long === length;
      if (!goesOn) [column, length, rows, first] = [from, long, 0, packed];
      rows += 1;
      last = y;
      packed += long;
      const color = indices[first] as number;
      if (length < 8 || rows < 8 || !indices.subarray(first, packed).every((each) => each === color)) continue;
      const isOver =
        run + 3 >= (starts[cell + 1] as number) || runs[run + 3] !== y + 1 || runs[run + 5] !== runs[run + 2];
      if (isOver)
        return {
          x: place.x + column,
          y: place.y + y - rows + 1,
          width: length,
          height: rows,
          color: formatColor(swapRedAndBlue((table[color] as number) & 0xffffff)),
        };
    }
  }
  return undefined;
}

interface Patch extends Rectangle {
  readonly color: string;
}
