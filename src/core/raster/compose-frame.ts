import { celsAt } from "../look/cels-at.ts";
import type { Cel, Look, LookLayer, Moment } from "../look/look.ts";
import { MantleError } from "../problem.ts";
import { createImage, type Image, type Images } from "./image.ts";
import { recolorTable } from "./recolor-table.ts";
import { type Sheet, sheetOf } from "./sheet.ts";

/**
 * Draws a look at a moment: one frame of its rig's size, transparent where nothing is.
 *
 * Layers are laid over one another by source-over (T. Porter and T. Duff, "Compositing digital images", 1984) on straight
 * alpha; every channel is rounded to the nearest whole number once for each layer. What reaches beyond the frame is cut off.
 *
 * @param images - every picture the look names; pictures that were cut short leave blank cells.
 * @throws MantleError `missing-picture`, `unknown-animation`, `unknown-facing`.
 * @example
 * const frame = composeFrame(look, images, { animation: "idle", facing: "south", time: 0 })
 */
export function composeFrame(look: Look, images: Images, moment: Moment): Image {
  const frame = createImage(look.rig.frame.width, look.rig.frame.height);
  composeInto(frame, look, images, moment, 0, 0);
  return frame;
}

/** Draws a look at a moment into a frame-sized place of a larger picture. */
export function composeInto(target: Image, look: Look, images: Images, moment: Moment, x: number, y: number): void {
  const { origin, frame } = look.rig;
  const clip = {
    left: x,
    top: y,
    right: Math.min(target.width, x + frame.width),
    bottom: Math.min(target.height, y + frame.height),
  };
  const pixels = new Uint32Array(target.data.buffer, target.data.byteOffset, target.width * target.height);
  for (const cel of celsAt(look, moment)) {
    const sheet = sheetOf(pictureIn(images, cel.layer), cel.layer.layout);
    // A mirrored figure turns around its origin, which need not be the middle of the frame.
    const left = x + origin.x + cel.x;
    drawCel(pixels, target.width, clip, sheet, cel, left, y + origin.y + cel.y);
  }
}

interface Clip {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

function drawCel(
  pixels: Uint32Array,
  stride: number,
  clip: Clip,
  sheet: Sheet,
  cel: Cel,
  left: number,
  top: number,
): void {
  const { source, flip, layer } = cel;
  const trim = sheet.trims[(source.y / source.height) * sheet.columns + source.x / source.width];
  if (trim === undefined) return;
  const table = recolorTable(sheet, layer.recolor, layer.opacity);
  const { plane } = sheet;
  const step = flip ? -1 : 1;
  const firstX = left + (flip ? source.width - 1 - trim.x : trim.x);
  for (let row = 0; row < trim.height; row += 1) {
    const y = top + trim.y + row;
    if (y < clip.top || y >= clip.bottom) continue;
    let from = (source.y + trim.y + row) * sheet.width + source.x + trim.x;
    for (let column = 0, x = firstX; column < trim.width; column += 1, x += step, from += 1) {
      const index = plane[from] as number;
      if (index === 0 || x < clip.left || x >= clip.right) continue;
      const color = table[index] as number;
      const to = y * stride + x;
      pixels[to] = color >>> 24 === 255 ? color : blendOver(color, pixels[to] as number);
    }
  }
}

/** Source-over of two straight-alpha colors `0xAABBGGRR`, rounded to the nearest. */
export function blendOver(over: number, under: number): number {
  const alphaOver = over >>> 24;
  const alphaUnder = under >>> 24;
  const rest = alphaUnder * (255 - alphaOver);
  const whole = alphaOver * 255 + rest;
  if (whole === 0) return 0;
  const mix = (shift: number) =>
    Math.round((((over >>> shift) & 255) * alphaOver * 255 + ((under >>> shift) & 255) * rest) / whole);
  return ((Math.round(whole / 255) << 24) | (mix(16) << 16) | (mix(8) << 8) | mix(0)) >>> 0;
}

function pictureIn(images: Images, layer: LookLayer): Image {
  const image = images.get(layer.image);
  if (image !== undefined) return image;
  throw new MantleError(
    "missing-picture",
    `There is no picture "${layer.image}", which ${layer.part === undefined ? "the body" : `"${layer.part}"`} needs. Load the pictures of the look first.`,
  );
}
