import { createImage, type Image } from "../../raster/image.ts";

/** How two pictures differ. */
export interface PictureDifference {
  /** How many pixels do. */
  readonly count: number;
  /** What differs in red, the stronger the more it does; the rest of the newer picture, pale. */
  readonly image: Image;
}

/**
 * Compares two pictures pixel by pixel; where one is larger, the other is taken for transparent there.
 *
 * @returns `undefined` where they look the same.
 */
export function comparePictures(before: Image, after: Image): PictureDifference | undefined {
  const width = Math.max(before.width, after.width);
  const height = Math.max(before.height, after.height);
  let difference: Image | undefined;
  let count = 0;
  for (let y = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1) {
      const most = farthest(before, after, x, y);
      if (most === 0) continue;
      difference ??= paleOf(after, width, height);
      count += 1;
      difference.data.set([...madder, Math.min(255, 96 + 2 * most)], 4 * (y * width + x));
    }
  }
  return difference && { count, image: difference };
}

const madder = [0x9c, 0x3b, 0x2e];

/** How far red, green, blue or opacity are apart, whichever is farthest; what is not seen has no color. */
function farthest(before: Image, after: Image, x: number, y: number): number {
  const was = placeOf(before, x, y);
  const is = placeOf(after, x, y);
  let most = 0;
  for (let channel = 0; channel < 4; channel += 1) {
    const one = was < 0 ? 0 : (before.data[was + channel] as number);
    const other = is < 0 ? 0 : (after.data[is + channel] as number);
    most = Math.max(most, Math.abs(one - other));
  }
  return most;
}

/** Where a pixel begins; -1 for one that is not seen. */
function placeOf({ width, height, data }: Image, x: number, y: number): number {
  const at = 4 * (y * width + x);
  return x >= width || y >= height || data[at + 3] === 0 ? -1 : at;
}

function paleOf(image: Image, width: number, height: number): Image {
  const pale = createImage(width, height);
  for (let y = 0; y < image.height; y += 1) {
    for (let x = 0; x < image.width; x += 1) {
      const from = 4 * (y * image.width + x);
      const to = 4 * (y * width + x);
      for (let channel = 0; channel < 3; channel += 1)
        pale.data[to + channel] = 160 + (image.data[from + channel] as number) / 3;
      pale.data[to + 3] = (image.data[from + 3] as number) / 3;
    }
  }
  return pale;
}
