import { limits } from "../base/limits.ts";
import { MantleError } from "../base/problem.ts";
import type { Rectangle } from "../catalog/model/catalog.ts";

/** A picture: row-major RGBA, straight alpha, `width * height * 4` bytes. */
export interface Image {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8ClampedArray;
}

/** The pictures of a catalog, by their path inside its folder. */
export type Images = ReadonlyMap<string, Image>;

/**
 * A transparent picture.
 *
 * @throws MantleError `picture-too-large` for one of more pixels than pictures may have, which memory would not hold.
 */
export function createImage(width: number, height: number): Image {
  if (!(width * height <= limits.pixels))
    throw new MantleError(
      "picture-too-large",
      `A picture of ${width}×${height} pixels is too large: ${limits.pixels} pixels in all is the most.`,
    );
  return { width, height, data: new Uint8ClampedArray(width * height * 4) };
}

/** A copy of a part of a picture; what lies outside it is transparent. */
export function cropImage(image: Image, rectangle: Rectangle): Image {
  const cropped = createImage(rectangle.width, rectangle.height);
  pasteImage(cropped, image, -rectangle.x, -rectangle.y);
  return cropped;
}

/** Copies a picture into another with its upper left corner at x, y; what does not fit is cut off. */
export function pasteImage(target: Image, image: Image, x: number, y: number): void {
  const left = Math.max(0, -x);
  const right = Math.min(image.width, target.width - x);
  if (right <= left) return;
  for (let row = Math.max(0, -y); row < Math.min(image.height, target.height - y); row += 1) {
    const from = (row * image.width + left) * 4;
    target.data.set(image.data.subarray(from, from + (right - left) * 4), ((row + y) * target.width + x + left) * 4);
  }
}

/** The picture with every pixel made a square of `factor` × `factor` pixels. */
export function enlargeImage(image: Image, factor: number): Image {
  const large = createImage(image.width * factor, image.height * factor);
  const from = new Uint32Array(image.data.buffer, image.data.byteOffset, image.width * image.height);
  const to = new Uint32Array(large.data.buffer);
  for (let y = 0; y < large.height; y += 1) {
    const row = Math.floor(y / factor) * image.width;
    for (let x = 0; x < large.width; x += 1) to[y * large.width + x] = from[row + Math.floor(x / factor)] ?? 0;
  }
  return large;
}
