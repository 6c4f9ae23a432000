import type { Rectangle } from "../catalog/model/catalog.ts";
import type { Image } from "./image.ts";

/** The smallest rectangle that holds every visible pixel; `undefined` when there is none. */
export function visibleBounds({ width, height, data }: Image): Rectangle | undefined {
  let [left, top, right, bottom] = [width, height, -1, -1];
  for (let y = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1) {
      if (data[(y * width + x) * 4 + 3] === 0) continue;
      left = Math.min(left, x);
      right = Math.max(right, x);
      top = Math.min(top, y);
      bottom = y;
    }
  }
  return right < 0 ? undefined : { x: left, y: top, width: right - left + 1, height: bottom - top + 1 };
}
