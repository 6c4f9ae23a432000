import { decode, encode } from "fast-png";
import { MantleError } from "../problem.ts";
import { createImage, type Image } from "./image.ts";

/**
 * Reads a PNG of any color type and depth as RGBA.
 *
 * @throws MantleError `bad-picture` when the bytes are not a whole PNG.
 */
export function decodePng(bytes: Uint8Array): Image {
  let png: ReturnType<typeof decode>;
  try {
    png = decode(bytes);
  } catch (error) {
    throw new MantleError(
      "bad-picture",
      `This is not a PNG that can be read: ${error instanceof Error ? error.message : String(error)}`,
    );
  }
  const { width, height, channels, depth, data, palette, transparency } = png;
  const image = createImage(width, height);
  if (depth === 8 && channels === 4 && palette === undefined) {
    image.data.set(data);
    return image;
  }
  const peak = 2 ** depth - 1;
  const raw = depth < 8 ? unpack(png) : data;
  if (palette !== undefined) {
    // One for each value of a byte, so that an index beyond the palette is a transparent pixel.
    const colors = new Uint32Array(256);
    for (const [index, [red = 0, green = 0, blue = 0, alpha = 255]] of palette.entries())
      colors[index] = (alpha << 24) | (blue << 16) | (green << 8) | red;
    const pixels = new Uint32Array(image.data.buffer);
    for (let pixel = 0; pixel < pixels.length; pixel += 1) {
      const color = colors[raw[pixel] as number] as number;
      if (color !== 0) pixels[pixel] = color;
    }
    return image;
  }
  const scale = (value: number) => Math.round((value * 255) / peak);
  for (let pixel = 0; pixel < width * height; pixel += 1) {
    const sample = (channel: number) => raw[pixel * channels + channel] ?? 0;
    const at = pixel * 4;
    const gray = channels < 3;
    const red = sample(0);
    const green = gray ? red : sample(1);
    const blue = gray ? red : sample(2);
    const clear =
      transparency !== undefined &&
      red === transparency[0] &&
      (gray || (green === transparency[1] && blue === transparency[2]));
    const alpha = channels === 2 ? scale(sample(1)) : channels === 4 ? scale(sample(3)) : clear ? 0 : 255;
    image.data.set([scale(red), scale(green), scale(blue), alpha], at);
  }
  return image;
}

/**
 * Writes a picture as a PNG: with a palette when it has at most 256 colors, which is a quarter of the bytes to read again, and as
 * 8-bit RGBA otherwise. Every pixel is kept as it is. The same picture always gives the same bytes.
 */
export function encodePng({ width, height, data }: Image): Uint8Array {
  const indexed = indexColors(new Uint32Array(data.buffer, data.byteOffset, width * height));
  if (indexed === undefined) return encode({ width, height, data, channels: 4, depth: 8 });
  const isOpaque = indexed.colors.every((color) => color >>> 24 === 255);
  const palette = indexed.colors.map((color) => {
    const solid = [color & 255, (color >> 8) & 255, (color >> 16) & 255];
    return isOpaque ? solid : [...solid, color >>> 24];
  });
  return encode({ width, height, data: indexed.indices, channels: 1, depth: 8, palette });
}

/**
 * Pixels as indices into their colors, those that are not opaque first, as the transparency of a palette is written; `undefined`
 * when there are more than 256.
 */
function indexColors(
  pixels: Uint32Array,
): { readonly indices: Uint8Array; readonly colors: readonly number[] } | undefined {
  const seen = new Set<number>();
  let last = -1;
  for (const color of pixels) {
    if (color === last) continue;
    last = color;
    seen.add(color);
    if (seen.size > 256) return undefined;
  }
  const colors = [...seen].toSorted((one, other) => Number(one >>> 24 === 255) - Number(other >>> 24 === 255));
  const indexOf = new Map(colors.map((color, index) => [color, index]));
  const indices = new Uint8Array(pixels.length);
  let lastIndex = 0;
  last = -1;
  for (const [at, color] of pixels.entries()) {
    if (color !== last) lastIndex = indexOf.get(color) ?? 0;
    last = color;
    indices[at] = lastIndex;
  }
  return { indices, colors };
}

/** Width and height from the first bytes of a PNG (ISO/IEC 15948, IHDR), without reading its pixels; `undefined` when it is none. */
export function pngSize(bytes: Uint8Array): { readonly width: number; readonly height: number } | undefined {
  const signature = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];
  if (bytes.length < 24 || signature.some((byte, at) => bytes[at] !== byte)) return undefined;
  const view = new DataView(bytes.buffer, bytes.byteOffset);
  return { width: view.getUint32(16), height: view.getUint32(20) };
}

/** One sample a byte, from rows of samples packed into bytes. */
function unpack({ width, height, depth, channels, data }: ReturnType<typeof decode>): Uint8Array {
  const perRow = Math.ceil((width * channels * depth) / 8);
  const samples = new Uint8Array(width * height * channels);
  const mask = 2 ** depth - 1;
  for (let row = 0; row < height; row += 1) {
    for (let each = 0; each < width * channels; each += 1) {
      const bit = each * depth;
      const byte = data[row * perRow + (bit >> 3)] ?? 0;
      samples[row * width * channels + each] = (byte >> (8 - depth - (bit & 7))) & mask;
    }
  }
  return samples;
}
