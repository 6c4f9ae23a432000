import { joinBytes } from "../base/join-bytes.ts";
import { hexOf, sha256, utf8Bytes } from "../base/sha256.ts";

/**
 * A name made from content alone: equal content has equal names, everywhere and for ever, so what it names may be cached without
 * end. The first 16 hexadecimal digits of SHA-256 (FIPS 180-4) over the pieces, each after its length.
 *
 * @example
 * contentHash("a text", new Uint8Array([1, 2, 3])) // → "4cfb0110408f969f"
 */
export function contentHash(...pieces: readonly (Uint8Array | string)[]): string {
  const named = pieces.map((piece) => namedBytes(typeof piece === "string" ? utf8Bytes(piece) : piece));
  return nameOfDigest(sha256(joinBytes(...named)));
}

/** What SHA-256 is made of for the name of a single piece, for platforms that make it faster themselves. */
export function namedBytes(bytes: Uint8Array): Uint8Array {
  return joinBytes(utf8Bytes(`${bytes.length}:`), bytes);
}

/** The name that a digest gives. */
export function nameOfDigest(digest: Uint8Array): string {
  return hexOf(digest).slice(0, 16);
}

/**
 * Where the marks of a picture that marks points are kept as JSON: beside it, named by its content, so that marks of an older
 * picture are never taken for those of this one.
 *
 * @example
 * marksFile("art/reed/points.png", new Uint8Array([1, 2, 3])) // → "art/reed/points.5bccde5ffffe2dad.marks.json"
 */
export function marksFile(picture: string, bytes: Uint8Array): string {
  return `${picture.replace(/\.png$/i, "")}.${contentHash(bytes)}${marksEnding}`;
}

/** How the names of all files with frames tables end, so that no pattern includes them. */
export const framesEnding = ".frames.json";

/** How the names of all files with marks end. */
export const marksEnding = ".marks.json";
