import type { Rectangle } from "../../catalog/model/catalog.ts";
import type { Image } from "../../raster/image.ts";

/** A connected region of a picture: pixels that touch, corners too, or lie no further apart than the gap that is allowed. */
export interface Region extends Rectangle {
  /** How many pixels it has. */
  readonly count: number;
  /** Its stretches of pixels: row, first column, column after the last, one after another. */
  readonly runs: readonly number[];
}

/**
 * Finds the connected regions of a picture, in the order of their first pixels.
 *
 * Rows are looked at as runs of visible pixels, and runs that touch are united (after A. Rosenfeld and J. L. Pfaltz, "Sequential operations
 * in digital picture processing", 1966), so that its time is that of reading the picture.
 *
 * @param gap - how many blank pixels may lie between pixels of one region.
 */
export function findRegions({ width, height, data }: Image, gap = 0): readonly Region[] {
  const pixels = new Uint32Array(data.buffer, data.byteOffset, width * height);
  const runs: number[] = [];
  const parents: number[] = [];
  /** Where the runs of each row begin. */
  const rows = new Int32Array(height + 1);
  const reach = gap + 1;
  for (let y = 0; y < height; y += 1) {
    rows[y] = parents.length;
    let above = y - reach < 0 ? 0 : (rows[y - reach] as number);
    const end = rows[y] as number;
    for (let x = 0, at = y * width; x < width; ) {
      if ((pixels[at + x] as number) >>> 24 === 0) {
        x += 1;
        continue;
      }
      const from = x;
      while (x < width && (pixels[at + x] as number) >>> 24 !== 0) x += 1;
      const own = parents.length;
      parents.push(own);
      runs.push(y, from, x);
      // Within the row, the run before may be near enough.
      if (own > end && from - (runs[own * 3 - 1] as number) < reach) unite(parents, own, own - 1);
      // With one row above, runs that end too far left are never met again.
      if (reach === 1) while (above < end && (runs[above * 3 + 2] as number) < from) above += 1;
      for (let other = above; other < end; other += 1) {
        if ((runs[other * 3 + 1] as number) >= x + reach) {
          if (reach === 1) break;
          continue;
        }
        if ((runs[other * 3 + 2] as number) > from - reach) unite(parents, own, other);
      }
    }
  }
  return gather(runs, parents);
}

function rootOf(parents: number[], run: number): number {
  let root = run;
  while (parents[root] !== root) root = parents[root] as number;
  for (let at = run; parents[at] !== root; ) {
    const next = parents[at] as number;
    parents[at] = root;
    at = next;
  }
  return root;
}

/** The run that came first stands for all. */
function unite(parents: number[], one: number, other: number): void {
  const [first, second] = [rootOf(parents, one), rootOf(parents, other)];
  if (first < second) parents[second] = first;
  else parents[first] = second;
}

interface Growing {
  left: number;
  top: number;
  right: number;
  bottom: number;
  count: number;
  readonly runs: number[];
}

function gather(runs: readonly number[], parents: number[]): readonly Region[] {
  const regions = new Map<number, Growing>();
  for (let run = 0; run < parents.length; run += 1) {
    const [y = 0, from = 0, end = 0] = [runs[run * 3], runs[run * 3 + 1], runs[run * 3 + 2]];
    const root = rootOf(parents, run);
    let region = regions.get(root);
    if (region === undefined) {
      region = { left: from, top: y, right: end, bottom: y, count: 0, runs: [] };
      regions.set(root, region);
    }
    region.left = Math.min(region.left, from);
    region.right = Math.max(region.right, end);
    region.bottom = y;
    region.count += end - from;
    region.runs.push(y, from, end);
  }
  return [...regions.values()].map(({ left, top, right, bottom, count, runs: own }) => ({
    x: left,
    y: top,
    width: right - left,
    height: bottom - top + 1,
    count,
    runs: own,
  }));
}
