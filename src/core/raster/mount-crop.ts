import type { Crop } from "../catalog/model/catalog.ts";
import { blendOver } from "./blend.ts";
import type { Image } from "./image.ts";
import { swapRedAndBlue } from "./sheet.ts";

/**
 * Lays a picture on its background, and keeps the round part of it with a rim around.
 *
 * @param thick - how wide a rim is, in pixels.
 */
export function mountCrop({ width, height, data }: Image, { back, rim, round }: Crop, thick = 1): void {
  const pixels = new Uint32Array(data.buffer, data.byteOffset, width * height);
  const opaque = (color: number) => (0xff000000 | swapRedAndBlue(color)) >>> 0;
  // How far a pixel's middle is from the ellipse's, 1 at its edge.
  const away = (x: number, y: number, inset: number) =>
    Math.hypot((x + 0.5 - width / 2) / (width / 2 - inset), (y + 0.5 - height / 2) / (height / 2 - inset));
  for (let y = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1) {
      const at = y * width + x;
      if (round && away(x, y, 0) > 1) pixels[at] = 0;
      else if (round && rim !== undefined && away(x, y, thick) > 1) pixels[at] = opaque(rim);
      else if (back !== undefined) pixels[at] = blendOver(pixels[at] ?? 0, opaque(back));
    }
  }
}
