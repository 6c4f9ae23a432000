import type { Body, Catalog, Rectangle } from "../../catalog/model/catalog.ts";
import type { Look } from "../../look/look.ts";
import { blendPicture } from "../../raster/blend-picture.ts";
import { composeFrame } from "../../raster/compose-frame.ts";
import { createImage, enlargeImage, type Image, pasteImage } from "../../raster/image.ts";
import { swapRedAndBlue } from "../../raster/sheet.ts";
import type { SeenAt } from "./art-check.ts";
import { bareLook, partsLook } from "./art-facts.ts";
import { type LoadPicture, loadAll } from "./look-at-figures.ts";
import { boundsOf, type Mask } from "./mask.ts";

/** The color of rings: what is wrong. */
const madder = 0x9c3b2e;
const paper = 0xf4ecdc;
/** Pixels of the picture for each of the frame, on a side. */
const scale = 6;

/** Draws where a finding is seen: the frame, pale on its body, at six times its size, with a ring around the pixels that are meant. */
export async function drawSeen(
  catalog: Catalog,
  body: Body,
  { parts, frame, pixels }: SeenAt,
  load: LoadPicture,
): Promise<Image> {
  const { width, height } = body.rig.frame;
  const whole = filled(width, height, paper);
  const draw = async (look: Look, opacity: number) =>
    blendPicture(whole, composeFrame(look, (await loadAll(look, load)) ?? new Map(), frame), 0, 0, opacity);
  const worn = parts.flatMap((id) => catalog.parts.get(id) ?? []);
  await draw(bareLook(catalog, body), worn.length === 0 ? 1 : 0.5);
  if (worn.length > 0) await draw(partsLook(catalog, body, worn), 1);
  const large = enlargeImage(whole, scale);
  // Where nothing is drawn, the whole frame is meant.
  const bounds = boundsOf(pixels) ?? { x: 0, y: 0, width, height };
  outline(large, pixels);
  box(large, { x: bounds.x - 2, y: bounds.y - 2, width: bounds.width + 4, height: bounds.height + 4 });
  return large;
}

function filled(width: number, height: number, color: number): Image {
  const image = createImage(width, height);
  new Uint32Array(image.data.buffer).fill((0xff000000 | swapRedAndBlue(color)) >>> 0);
  return image;
}

/** Draws a line of two pixels where the mask ends. */
function outline(large: Image, { width, height, bits }: Mask): void {
  const words = (width + 31) >> 5;
  const isIn = (x: number, y: number) =>
    x >= 0 && y >= 0 && x < width && y < height && (((bits[y * words + (x >> 5)] as number) >>> (x & 31)) & 1) === 1;
  const across = filled(scale, 2, madder);
  const down = filled(2, scale, madder);
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1) {
      if (!isIn(x, y)) continue;
      if (!isIn(x, y - 1)) pasteImage(large, across, x * scale, y * scale);
      if (!isIn(x, y + 1)) pasteImage(large, across, x * scale, (y + 1) * scale - 2);
      if (!isIn(x - 1, y)) pasteImage(large, down, x * scale, y * scale);
      if (!isIn(x + 1, y)) pasteImage(large, down, (x + 1) * scale - 2, y * scale);
    }
}

/** Draws a box, as far as it lies in the picture. */
function box(large: Image, { x, y, width, height }: Rectangle): void {
  const [left, top] = [Math.max(0, x), Math.max(0, y)];
  const right = Math.min(large.width / scale, x + width) - left;
  const bottom = Math.min(large.height / scale, y + height) - top;
  const across = filled(right * scale, 3, madder);
  const down = filled(3, bottom * scale, madder);
  pasteImage(large, across, left * scale, top * scale);
  pasteImage(large, across, left * scale, (top + bottom) * scale - 3);
  pasteImage(large, down, left * scale, top * scale);
  pasteImage(large, down, (left + right) * scale - 3, top * scale);
}
