/** A PNG as the chunks it is made of (ISO/IEC 15948, clause 5). */

import { joinBytes } from "../../base/join-bytes.ts";
import { MantleError } from "../../base/problem.ts";

export interface Chunk {
  /** Four letters, like `IDAT`. */
  readonly type: string;
  readonly data: Uint8Array;
}

export const signature: Uint8Array = Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a);

/** Whether bytes begin as every PNG does. */
export function isSigned(bytes: Uint8Array): boolean {
  return signature.every((byte, at) => bytes[at] === byte);
}

/**
 * The chunks of a PNG up to its end, each of them whole.
 *
 * @throws MantleError `bad-picture` when one is cut short or damaged.
 */
export function* readChunks(bytes: Uint8Array): Iterable<Chunk> {
  if (!isSigned(bytes)) throw badPicture("it does not begin as a PNG does");
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  for (let at = signature.length; ; ) {
    if (at + 12 > bytes.length) throw badPicture("its end is missing");
    const length = view.getUint32(at);
    if (at + 12 + length > bytes.length) throw badPicture("its end is missing");
    const body = bytes.subarray(at + 4, at + 8 + length);
    if (view.getUint32(at + 8 + length) !== crc32(body)) throw badPicture("a checksum does not match");
    const type = String.fromCharCode(...body.subarray(0, 4));
    if (type === "IEND") return;
    yield { type, data: body.subarray(4) };
    at += length + 12;
  }
}

/** A PNG made of chunks; its end is added. */
export function writeChunks(chunks: readonly Chunk[]): Uint8Array {
  const written = [...chunks, { type: "IEND", data: new Uint8Array(0) }].map(({ type, data }) => {
    const body = joinBytes(Uint8Array.from(type, letterCode), data);
    return joinBytes(words(data.length), body, words(crc32(body)));
  });
  return joinBytes(signature, ...written);
}

const letterCode = (letter: string) => letter.charCodeAt(0);

/** Whole numbers of 32 bits, most significant byte first. */
export function words(...numbers: readonly number[]): Uint8Array {
  const bytes = new Uint8Array(numbers.length * 4);
  const view = new DataView(bytes.buffer);
  for (const [at, number] of numbers.entries()) view.setUint32(at * 4, number);
  return bytes;
}

export function badPicture(because: string): MantleError {
  return new MantleError("bad-picture", `This is not a PNG that can be read: ${because}.`);
}

const crcOfByte = Uint32Array.from({ length: 256 }, (_, byte) => {
  let crc = byte;
  for (let bit = 0; bit < 8; bit += 1) crc = (crc >>> 1) ^ (crc & 1 ? 0xedb88320 : 0);
  return crc;
});

/** The checksum of a chunk (ISO/IEC 15948, annex D). */
function crc32(bytes: Uint8Array): number {
  let crc = 0xffffffff;
  for (let at = 0; at < bytes.length; at += 1)
    crc = (crc >>> 8) ^ (crcOfByte[(crc ^ (bytes[at] as number)) & 255] as number);
  return (crc ^ 0xffffffff) >>> 0;
}
