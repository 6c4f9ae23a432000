import type { Rig } from "../catalog/model/catalog.ts";
import type { Look } from "../look/look.ts";
import { timedFrames } from "../look/moments.ts";
import { blendPicture } from "../raster/blend-picture.ts";
import { composeFrame } from "../raster/compose-frame.ts";
import { createImage, enlargeImage, type Image, type Images } from "../raster/image.ts";
import { drawText, lineHeight, textWidth } from "../raster/pixel-font.ts";
import type { FoundFrame, FoundPart } from "./found.ts";
import { fill, paper } from "./paper.ts";

export interface ContactOptions {
  readonly rig: Rig;
  /** The figure that parts are shown on, pale: a bare body mostly; and its pictures. */
  readonly on?: { readonly look: Look; readonly images: Images };
  /** Pixels of the sheet for each drawn pixel, on a side. @defaultValue `2` */
  readonly scale?: number;
  /** How wide the sheet is, in pixels, if it has enough to show. @defaultValue `1280` */
  readonly width?: number;
}

const margin = 16;
const gap = 4;
/** How high a sheet may be, in pixels: what is beyond is counted. */
const tallest = 12_000;

/**
 * Draws what was found as it would be shown in one facing: each part in each of its animations, frame by frame on the figure, with its names
 * on it, so that a wrong order is seen.
 *
 * @returns `undefined` when nothing is drawn in that facing.
 */
export function contactSheet(
  parts: readonly Pick<FoundPart, "name" | "layers">[],
  facing: string,
  options: ContactOptions,
): Image | undefined {
  const { scale = 2, width = 1280, rig } = options;
  const strips = parts.flatMap((part) => stripsOf(part, facing, rig));
  if (strips.length === 0) return undefined;
  const cell = { width: rig.frame.width * scale + gap, height: rig.frame.height * scale + gap };
  const head = lineHeight * 2 + 8;
  const placed: { readonly strip: Strip; readonly x: number; readonly y: number }[] = [];
  let [x, y, right] = [margin, margin + 40, 0];
  for (const strip of strips) {
    if (y + head + cell.height > tallest) break;
    const room = Math.max(strip.frames.length * cell.width, textWidth(labelOf(strip)) * 2);
    if (x > margin && x + room > width - margin) {
      x = margin;
      y += cell.height + head + margin;
    }
    placed.push({ strip, x, y });
    x += room + margin;
    right = Math.max(right, x);
  }
  const left = strips.length - placed.length;
  const bottom = left > 0 ? y : y + head + cell.height + margin;
  const sheet = createImage(Math.max(right, 320), bottom + (left > 0 ? 40 : 0));
  fill(sheet, 0, 0, sheet.width, sheet.height, paper.sheet);
  drawText(sheet, facing, { x: margin, y: margin, color: paper.ink, size: 3 });
  if (left > 0) drawText(sheet, `and ${left} more`, { x: margin, y: bottom, color: paper.ink, size: 2 });
  for (const each of placed) drawStrip(sheet, each.strip, { ...each, head, cell, facing, scale }, options);
  return sheet;
}

/** The frames of a part in one animation; of a still part, one. */
interface Strip {
  readonly name: string;
  readonly animation: string | undefined;
  /** By layer, back to front. */
  readonly frames: readonly (readonly FoundFrame[])[];
}

function labelOf({ name, animation, frames }: Strip): string {
  const title = name.replace(/\.png$/i, "");
  return animation === undefined ? title : `${title} - ${animation} ${frames.length}`;
}

function stripsOf({ name, layers }: Pick<FoundPart, "name" | "layers">, facing: string, rig: Rig): readonly Strip[] {
  const drawn = layers.map(({ frames }) =>
    frames.filter((each) => each.facing === undefined || each.facing === facing),
  );
  const animations = new Set(drawn.flat().map(({ animation }) => animation));
  const inOrder = [undefined, ...rig.animations.keys()].filter((animation) => animations.has(animation));
  return inOrder.map((animation) => {
    const count = animation === undefined ? 1 : (rig.animations.get(animation)?.frames ?? 1);
    const own = drawn.flat().filter((each) => each.animation === animation);
    const frames = Array.from({ length: count }, (_, frame) => own.filter((each) => (each.frame ?? frame) === frame));
    return { name, animation, frames };
  });
}

interface StripPlace {
  readonly x: number;
  readonly y: number;
  readonly head: number;
  readonly cell: { readonly width: number; readonly height: number };
  readonly facing: string;
  readonly scale: number;
}

function drawStrip(
  sheet: Image,
  strip: Strip,
  { x, y, head, cell, facing, scale }: StripPlace,
  { rig, on }: ContactOptions,
): void {
  drawText(sheet, labelOf(strip), { x, y, color: paper.ink, size: 2 });
  for (const [number, frames] of strip.frames.entries()) {
    const left = x + number * cell.width;
    fill(sheet, left, y + head, cell.width - gap, cell.height - gap, paper.cell);
    const frame = createImage(rig.frame.width, rig.frame.height);
    if (on !== undefined) {
      const animation = strip.animation ?? rig.animations.keys().next().value ?? "";
      const shown = timedFrames(rig.animations.get(animation) ?? { sequence: [0], ends: [1] }).find(
        (each) => each.frame === number,
      );
      blendPicture(frame, composeFrame(on.look, on.images, { animation, facing, time: shown?.time ?? 0 }), 0, 0, 0.45);
    }
    for (const { image, at } of frames) blendPicture(frame, image, at.x, at.y);
    blendPicture(sheet, enlargeImage(frame, scale), left, y + head);
    drawText(sheet, String(number), { x: left + 2, y: y + head + 2, color: paper.ink, size: 1 });
  }
}
