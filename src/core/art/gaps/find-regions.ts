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
 * @param gap - how many blank pixels may lie between pixels of one region.
 */
export function findRegions({ width, height, data }: Image, gap = 0): readonly Region[] {
  const pixels = new Uint32Array(data.buffer, data.byteOffset, width * height);
  const runs: number[] = [];
  for (let y = 0; y < height; y += 1)
    for (let x = 0, at = y * width; x < width; ) {
      if ((pixels[at + x] as number) >>> 24 === 0) {
        x += 1;
        continue;
      }
      const from = x;
      while (x < width && (pixels[at + x] as number) >>> 24 !== 0) x += 1;
      runs.push(y, from, x);
    }
  return joinRuns(runs, height, gap);
}

/**
 * Joins runs of visible pixels to regions: runs that touch are united (after A. Rosenfeld and J. L. Pfaltz, "Sequential operations in digital
 * picture processing", 1966), so that its time is that of reading the runs.
 *
 * @param runs - row, first column, column after the last, one after another, row by row.
 * @param height - how many rows there are.
 */
export function joinRuns(runs: readonly number[], height: number, gap: number): readonly Region[] {
  const count = runs.length / 3;
  const parents = Array.from({ length: count }, (_, run) => run);
  const reach = gap + 1;
  /** The first run of each row, and of the row after the last. */
  const rows = new Int32Array(height + 1).fill(count);
  for (let run = count - 1; run >= 0; run -= 1) rows[runs[run * 3] as number] = run;
  for (let y = height - 1; y >= 0; y -= 1) rows[y] = Math.min(rows[y] as number, rows[y + 1] as number);
  let above = 0;
  for (let own = 0; own < count; own += 1) {
    const [y = 0, from = 0, end = 0] = [runs[own * 3], runs[own * 3 + 1], runs[own * 3 + 2]];
    const first = rows[y] as number;
    // Within the row, the run before may be near enough.
    if (own > first && from - (runs[own * 3 - 1] as number) < reach) unite(parents, own, own - 1);
    if (own === first) above = rows[Math.max(0, y - reach)] as number;
    // With one row above, what ends too far left of a run does so of all that follow.
    if (gap === 0) while (above < first && (runs[above * 3 + 2] as number) < from) above += 1;
    for (let other = above; other < first; other += 1) {
      if (gap === 0 && (runs[other * 3 + 1] as number) > end) break;
      const isNear = (runs[other * 3 + 1] as number) < end + reach && (runs[other * 3 + 2] as number) > from - reach;
      if (isNear) unite(parents, own, other);
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
