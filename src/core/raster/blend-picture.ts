import { blendOver } from "./blend.ts";
import type { Image } from "./image.ts";

/** A color with less alpha. */
function faded(color: number, opacity: number): number {
  return ((Math.round((color >>> 24) * opacity) << 24) | (color & 0xffffff)) >>> 0;
}

/** Lays a picture over another with its upper left corner at x, y, by source-over; what does not fit is cut off. @param opacity - 0 to 1. */
export function blendPicture(target: Image, image: Image, x: number, y: number, opacity = 1): void {
  const under = new Uint32Array(target.data.buffer, target.data.byteOffset, target.width * target.height);
  const over = new Uint32Array(image.data.buffer, image.data.byteOffset, image.width * image.height);
  for (let row = Math.max(0, -y); row < Math.min(image.height, target.height - y); row += 1)
    for (let column = Math.max(0, -x); column < Math.min(image.width, target.width - x); column += 1) {
      const color = over[row * image.width + column] as number;
      if (color >>> 24 === 0) continue;
      const at = (row + y) * target.width + column + x;
      under[at] = blendOver(opacity === 1 ? color : faded(color, opacity), under[at] as number);
    }
}
