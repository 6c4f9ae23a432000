import { zlibSync } from "fflate";
import { joinBytes } from "../../base/join-bytes.ts";
import type { Image } from "../image.ts";
import { type Chunk, words, writeChunks } from "./chunks.ts";

/**
 * Writes a picture as a PNG: with a palette when it has at most 256 colors, which is a quarter of the bytes to read again, and as
 * 8-bit RGBA otherwise. Every pixel is kept as it is. The same picture always gives the same bytes.
 */
export function encodePng(image: Image): Uint8Array {
  const { width, height, data } = image;
  const indexed = indexColors(new Uint32Array(data.buffer, data.byteOffset, width * height));
  if (indexed === undefined) return writeChunks(rgbaChunks(image));
  const { indices, colors } = indexed;
  const palette = Uint8Array.from(colors.flatMap((color) => [color & 255, (color >> 8) & 255, (color >> 16) & 255]));
  const translucent = colors.filter((color) => color >>> 24 !== 255).map((color) => color >>> 24);
  return writeChunks([
    headerChunk(width, height, 3),
    { type: "PLTE", data: palette },
    ...(translucent.length === 0 ? [] : [{ type: "tRNS", data: Uint8Array.from(translucent) }]),
    pixelChunk(indices, width, height),
  ]);
}

/** The header and the pixels of a picture in 8-bit RGBA. */
export function rgbaChunks({ width, height, data }: Image): readonly [header: Chunk, pixels: Chunk] {
  return [headerChunk(width, height, 6), pixelChunk(data, width * 4, height)];
}

/** 8 bits a sample; deflated, filtered by row, not interlaced. */
function headerChunk(width: number, height: number, colorType: number): Chunk {
  return { type: "IHDR", data: joinBytes(words(width, height), Uint8Array.of(8, colorType, 0, 0, 0)) };
}

/** Rows of bytes, none of them filtered: pixel art packs as well without. */
function pixelChunk(bytes: ArrayLike<number>, stride: number, height: number): Chunk {
  const rows = new Uint8Array((stride + 1) * height);
  for (let row = 0; row < height; row += 1)
    for (let at = 0; at < stride; at += 1) rows[row * (stride + 1) + 1 + at] = bytes[row * stride + at] as number;
  return { type: "IDAT", data: zlibSync(rows, { level: 3 }) };
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
  for (let at = 0; at < pixels.length; at += 1) {
    const color = pixels[at] as number;
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
  for (let at = 0; at < pixels.length; at += 1) {
    const color = pixels[at] as number;
    if (color !== last) lastIndex = indexOf.get(color) ?? 0;
    last = color;
    indices[at] = lastIndex;
  }
  return { indices, colors };
}
