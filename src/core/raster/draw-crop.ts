import { requireKnown } from "../base/require-known.ts";
import type { Crop } from "../catalog/model/catalog.ts";
import type { Look } from "../look/look.ts";
import { pointAt } from "../look/point-at.ts";
import { blendOver } from "./blend.ts";
import { composeFrame } from "./compose-frame.ts";
import { cropImage, type Image, type Images } from "./image.ts";
import { swapRedAndBlue } from "./sheet.ts";

/**
 * Draws one of the rig's crops, such as a portrait or a map token, from the same layers as everything else, so that it is never
 * out of date.
 *
 * @throws MantleError `unknown-crop`, `missing-picture`.
 * @example
 * const portrait = drawCrop(look, images, "portrait")
 */
export function drawCrop(look: Look, images: Images, crop: string): Image {
  const found = requireKnown("crop", crop, look.rig.crops);
  const { animation, facing, point, rectangle } = found;
  const moment = { animation, facing, time: 0 };
  const { origin } = look.rig;
  // A body without the point, or a moment in which it is not seen, is cropped where the figure stands.
  const at = point === undefined ? { x: -origin.x, y: -origin.y } : (pointAt(look, point, moment) ?? { x: 0, y: 0 });
  const [x, y] = [rectangle.x + at.x + origin.x, rectangle.y + at.y + origin.y];
  const picture = cropImage(composeFrame(look, images, moment), { ...rectangle, x, y });
  mount(picture, found);
  return picture;
}

/** Lays a picture on its background, and keeps the round part of it with a rim around. */
function mount({ width, height, data }: Image, { back, rim, round }: Crop): void {
  const pixels = new Uint32Array(data.buffer, data.byteOffset, width * height);
  const opaque = (color: number) => (0xff000000 | swapRedAndBlue(color)) >>> 0;
  // How far a pixel's middle is from the ellipse's, 1 at its edge; a rim is one pixel wide.
  const away = (x: number, y: number, inset: number) =>
    Math.hypot((x + 0.5 - width / 2) / (width / 2 - inset), (y + 0.5 - height / 2) / (height / 2 - inset));
  for (let y = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1) {
      const at = y * width + x;
      if (round && away(x, y, 0) > 1) pixels[at] = 0;
      else if (round && rim !== undefined && away(x, y, 1) > 1) pixels[at] = opaque(rim);
      else if (back !== undefined) pixels[at] = blendOver(pixels[at] ?? 0, opaque(back));
    }
  }
}
