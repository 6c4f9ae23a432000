import { joinBytes } from "../../base/join-bytes.ts";
import { MantleError } from "../../base/problem.ts";
import type { Image } from "../image.ts";
import { type Chunk, words, writeChunks } from "./chunks.ts";
import { rgbaChunks } from "./encode-png.ts";

/** One picture of an animation. */
export interface TimedImage {
  readonly image: Image;
  /** Seconds. */
  readonly duration: number;
}

/**
 * Writes pictures of one size as an animated PNG that plays for ever (W3C, "Portable Network Graphics Specification, Third
 * Edition", 2025, §11.3.6); what cannot show it shows the first picture. Durations are rounded to milliseconds.
 *
 * @throws MantleError `no-frames`, `unequal-frames`.
 */
export function encodeApng(frames: readonly TimedImage[]): Uint8Array {
  const [first] = frames;
  if (first === undefined) throw new MantleError("no-frames", "An animation needs at least one picture.");
  const { width, height } = first.image;
  if (frames.some(({ image }) => image.width !== width || image.height !== height)) {
    throw new MantleError("unequal-frames", "The pictures of an animation must be of one size.");
  }
  const chunks: Chunk[] = [];
  let sequence = 0;
  for (const [number, { image, duration }] of frames.entries()) {
    const [header, pixels] = rgbaChunks(image);
    if (number === 0) chunks.push(header, { type: "acTL", data: words(frames.length, 0) });
    const delay = new DataView(new ArrayBuffer(6));
    delay.setUint16(0, Math.min(65_535, Math.round(duration * 1000)));
    delay.setUint16(2, 1000);
    // The whole picture is replaced: dispose 0 (leave), blend 0 (source).
    const control = joinBytes(words(sequence++, width, height, 0, 0), new Uint8Array(delay.buffer));
    chunks.push({ type: "fcTL", data: control });
    chunks.push(number === 0 ? pixels : { type: "fdAT", data: joinBytes(words(sequence++), pixels.data) });
  }
  return writeChunks(chunks);
}
