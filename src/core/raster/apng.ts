import { encode } from "fast-png";
import { MantleError } from "../problem.ts";
import type { Image } from "./image.ts";

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
  const encoded = frames.map(({ image }) =>
    chunksOf(encode({ width, height, data: image.data, channels: 4, depth: 8 })),
  );
  const header = encoded[0]?.find(({ type }) => type === "IHDR");
  const chunks: Uint8Array[] = [signature];
  chunks.push(chunk("IHDR", header?.data ?? new Uint8Array(13)), chunk("acTL", words(frames.length, 0)));
  let sequence = 0;
  for (const [number, { duration }] of frames.entries()) {
    const delay = new Uint8Array(6);
    new DataView(delay.buffer).setUint16(0, Math.min(65_535, Math.round(duration * 1000)));
    new DataView(delay.buffer).setUint16(2, 1000);
    // The whole picture is replaced: dispose 0 (leave), blend 0 (source).
    chunks.push(chunk("fcTL", joined(words(sequence++, width, height, 0, 0), delay)));
    for (const { type, data } of encoded[number] ?? []) {
      if (type !== "IDAT") continue;
      chunks.push(number === 0 ? chunk("IDAT", data) : chunk("fdAT", joined(words(sequence++), data)));
    }
  }
  chunks.push(chunk("IEND", new Uint8Array(0)));
  return joined(...chunks);
}

const signature = Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a);

interface Chunk {
  readonly type: string;
  readonly data: Uint8Array;
}

function chunksOf(png: Uint8Array): readonly Chunk[] {
  const view = new DataView(png.buffer, png.byteOffset, png.byteLength);
  const chunks: Chunk[] = [];
  for (let at = signature.length; at < png.length; ) {
    const length = view.getUint32(at);
    const type = String.fromCharCode(...png.subarray(at + 4, at + 8));
    chunks.push({ type, data: png.subarray(at + 8, at + 8 + length) });
    at += length + 12;
  }
  return chunks;
}

function chunk(type: string, data: Uint8Array): Uint8Array {
  const body = joined(
    Uint8Array.from(type, (letter) => letter.charCodeAt(0)),
    data,
  );
  return joined(words(data.length), body, words(crc32(body)));
}

/** Whole numbers of 32 bits, most significant byte first. */
function words(...numbers: readonly number[]): Uint8Array {
  const bytes = new Uint8Array(numbers.length * 4);
  const view = new DataView(bytes.buffer);
  for (const [at, number] of numbers.entries()) view.setUint32(at * 4, number);
  return bytes;
}

function joined(...pieces: readonly Uint8Array[]): Uint8Array {
  const whole = new Uint8Array(pieces.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const piece of pieces) {
    whole.set(piece, at);
    at += piece.length;
  }
  return whole;
}

/** The checksum of a chunk (ISO/IEC 15948, annex D). */
function crc32(bytes: Uint8Array): number {
  let crc = 0xffffffff;
  for (const byte of bytes) {
    crc ^= byte;
    for (let bit = 0; bit < 8; bit += 1) crc = (crc >>> 1) ^ (crc & 1 ? 0xedb88320 : 0);
  }
  return (crc ^ 0xffffffff) >>> 0;
}
