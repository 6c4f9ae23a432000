import { formatColor } from "../../base/color/color.ts";
import { message } from "../../base/message.ts";
import type { Problem } from "../../base/problem.ts";
import type { Rectangle, Rig } from "../../catalog/model/catalog.ts";
import { createImage, type Image } from "../../raster/image.ts";
import { swapRedAndBlue } from "../../raster/sheet.ts";
import { artFinding, type Found, type FoundFrame } from "../found.ts";
import { findRegions, type Region } from "./find-regions.ts";

export interface FiguresOptions {
  /** How many blank pixels may lie within a figure. @defaultValue `0` */
  readonly gap?: number;
  /**
   * How many pixels from a figure what stands alone still belongs to it: a shadow, a spark.
   *
   * @defaultValue an eighth of the height of most figures
   */
  readonly near?: number;
  /** Leaves out what stands alone and has so many pixels or fewer. @defaultValue `0`: it is reported, and nothing is left out */
  readonly drop?: number;
  /** Whether figures are `parts`, or `frames` of one: a row for each animation and facing, in the rig's order. @defaultValue `"parts"` */
  readonly as?: "parts" | "frames";
  /** What the parts are called, in their order. */
  readonly called?: readonly string[];
  /** Where the origin lies in a figure, from 0 (left, top) to 1 (right, bottom). @defaultValue the middle of the bottom */
  readonly anchor?: readonly [x: number, y: number];
}

/** Something drawn on a picture by itself. */
export interface Figure extends Rectangle {
  readonly image: Image;
}

/** What was found on a picture, row by row. */
export interface Figures {
  readonly rows: readonly (readonly Figure[])[];
  readonly problems: readonly Problem[];
}

/** How many pixels are a speck, if they stand alone. */
const speck = 6;

/**
 * Finds the figures on a picture, where nothing but blank pixels lies between them: row by row, each from left to right.
 *
 * @param file - what findings are about.
 */
export function findFigures(file: string, image: Image, { gap = 0, near, drop = 0 }: FiguresOptions = {}): Figures {
  const regions = findRegions(image, gap);
  const largest = Math.max(0, ...regions.map(({ count }) => count));
  const tallest = Math.max(0, ...regions.map(({ height }) => height));
  // A shadow is wide, and low.
  const isLarge = ({ count, height }: Region) => count * 12 >= largest && height * 3 >= tallest;
  const large = regions.filter(isLarge);
  const problems: Problem[] = [];
  const heights = large.map(({ height }) => height).sort((one, other) => one - other);
  const reach = near ?? Math.round((heights[heights.length >> 1] ?? 0) / 8);
  const groups = new Map(large.map((region): [Region, Region[]] => [region, [region]]));
  for (const region of regions) {
    if (isLarge(region)) continue;
    const [nearest] = large.toSorted((one, other) => distance(one, region) - distance(other, region));
    const isNear = nearest !== undefined && distance(nearest, region) <= reach;
    if (isNear) groups.get(nearest)?.push(region);
    else if (region.count <= drop) continue;
    else {
      groups.set(region, [region]);
      if (region.count <= speck) {
        const { x, y, count } = region;
        problems.push(artFinding(file, "warning", message("speck", { count, x, y }), message("say-drop", { count })));
      }
    }
  }
  for (const region of groups.keys()) {
    const color = onlyColor(region, image);
    if (color === undefined) continue;
    const { x, y, width, height } = region;
    problems.push(
      artFinding(file, "warning", message("patch", { x, y, width, height }), message("mend-patch", { color })),
    );
  }
  return { rows: inRows([...groups.values()].map((group) => cutOut(group, image))), problems };
}

/** How far two boxes are apart, in pixels; 0 where they overlap. */
function distance(one: Rectangle, other: Rectangle): number {
  const across = Math.max(one.x - other.x - other.width, other.x - one.x - one.width, 0);
  const down = Math.max(one.y - other.y - other.height, other.y - one.y - one.height, 0);
  return Math.max(across, down);
}

/** The color of a region that is nearly a rectangle of one color: nobody draws that, and many forget to erase it. */
function onlyColor({ width, height, count, runs }: Region, image: Image): string | undefined {
  if (count < 64 || count < width * height * 0.98) return undefined;
  const pixels = new Uint32Array(image.data.buffer, image.data.byteOffset, image.width * image.height);
  const [y = 0, from = 0] = runs;
  const color = pixels[y * image.width + from] as number;
  for (let at = 0; at < runs.length; at += 3)
    for (let x = runs[at + 1] as number; x < (runs[at + 2] as number); x += 1)
      if (pixels[(runs[at] as number) * image.width + x] !== color) return undefined;
  return formatColor(swapRedAndBlue(color & 0xffffff));
}

/** Only the pixels of its own regions: boxes of figures may overlap. */
function cutOut(group: readonly Region[], image: Image): Figure {
  const left = Math.min(...group.map(({ x }) => x));
  const top = Math.min(...group.map(({ y }) => y));
  const width = Math.max(...group.map((each) => each.x + each.width)) - left;
  const height = Math.max(...group.map((each) => each.y + each.height)) - top;
  const cut = createImage(width, height);
  for (const { runs } of group)
    for (let at = 0; at < runs.length; at += 3) {
      const [y = 0, from = 0, end = 0] = runs.slice(at, at + 3);
      const start = (y * image.width + from) * 4;
      cut.data.set(image.data.subarray(start, start + (end - from) * 4), ((y - top) * width + from - left) * 4);
    }
  return { x: left, y: top, width, height, image: cut };
}

/** A figure is in the row of those whose middle it covers. */
function inRows(figures: readonly Figure[]): readonly (readonly Figure[])[] {
  const rows: Figure[][] = [];
  for (const figure of figures.toSorted((one, other) => one.y - other.y)) {
    const row = rows.find(([first]) => {
      const middle = first === undefined ? 0 : first.y + first.height / 2;
      return figure.y < middle && figure.y + figure.height > middle;
    });
    if (row === undefined) rows.push([figure]);
    else row.push(figure);
  }
  return rows.map((row) => row.sort((one, other) => one.x - other.x));
}

/** Reads the figures of a picture as parts, or as the frames of one. */
export function readFigures(name: string, image: Image, rig: Rig, options: FiguresOptions = {}): Found {
  const { rows, problems } = findFigures(name, image, options);
  const [across, down] = options.anchor ?? [0.5, 1];
  const hung = ({ image: own, width, height }: Figure) => ({
    image: own,
    at: { x: rig.origin.x - Math.round(width * across), y: rig.origin.y - Math.round(height * down) },
  });
  if (options.as !== "frames") {
    const parts = rows.flat().map((figure, number) => {
      const still: FoundFrame = { animation: undefined, facing: undefined, frame: undefined, ...hung(figure) };
      const called = options.called?.[number] ?? `${name.replace(/\.png$/i, "")} ${number + 1}`;
      return { name: called, slot: undefined, layers: [{ opacity: 1, frames: [still] }] };
    });
    return { parts, problems };
  }
  const facings = [...rig.facings.values()].filter(({ mirrored }) => !mirrored).map(({ id }) => id);
  const lines = [...rig.animations.keys()].flatMap((animation) => facings.map((facing) => ({ animation, facing })));
  if (rows.length > lines.length || rows.length % facings.length !== 0) {
    const finding = message("rows-mismatch", { rows: rows.length, facings: facings.length, max: lines.length });
    return { parts: [], problems: [...problems, artFinding(name, "error", finding, message("mend-rows-mismatch"))] };
  }
  const frames = rows.flatMap((row, line) =>
    row.flatMap((figure, frame) => {
      const place = lines[line];
      return place === undefined ? [] : [{ ...place, frame, ...hung(figure) }];
    }),
  );
  return { parts: [{ name, slot: undefined, layers: [{ opacity: 1, frames }] }], problems };
}
