import type { Rectangle } from "../catalog/model/catalog.ts";
import type { Image } from "./image.ts";

/**
 * The smallest rectangle that holds every visible pixel; `undefined` when there is none.
 *
 * @param within - the part of the picture that is looked at. @defaultValue all of it
 */
export function visibleBounds({ width, height, data }: Image, within?: Rectangle): Rectangle | undefined {
  const pixels = new Uint32Array(data.buffer, data.byteOffset, width * height);
  const [x0, y0] = [Math.max(0, within?.x ?? 0), Math.max(0, within?.y ?? 0)];
  const x1 = Math.min(width, within === undefined ? width : within.x + within.width);
  const y1 = Math.min(height, within === undefined ? height : within.y + within.height);
  let [left, top, right, bottom] = [x1, y1, -1, -1];
  for (let y = y0; y < y1; y += 1) {
    const row = y * width;
    let first = x0;
    while (first < x1 && (pixels[row + first] as number) >>> 24 === 0) first += 1;
    if (first >= x1) continue;
    // What lies between is within the bounds whatever it is.
    let last = x1 - 1;
    while (last > right && last > first && (pixels[row + last] as number) >>> 24 === 0) last -= 1;
    left = Math.min(left, first);
    right = Math.max(right, last);
    top = Math.min(top, y);
    bottom = y;
  }
  return right < 0 ? undefined : { x: left, y: top, width: right - left + 1, height: bottom - top + 1 };
}
