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
  const scale = (value: number) => Math.round((value * 255) / peak);
  for (let pixel = 0; pixel < width * height; pixel += 1) {
    const sample = (channel: number) => raw[pixel * channels + channel] ?? 0;
    const at = pixel * 4;
    if (palette !== undefined) {
      const [red = 0, green = 0, blue = 0, alpha = 255] = palette[sample(0)] ?? [];
      image.data.set([red, green, blue, alpha], at);
      continue;
    }
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

/** Writes a picture as a PNG of 8-bit RGBA. The same picture always gives the same bytes. */
export function encodePng(image: Image): Uint8Array {
  return encode({ width: image.width, height: image.height, data: image.data, channels: 4, depth: 8 });
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
