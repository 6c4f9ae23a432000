import { sha256 } from "@noble/hashes/sha2.js";
import { utf8ToBytes } from "@noble/hashes/utils.js";

/** The SHA-256 of a text in UTF-8, in hexadecimal. */
export function sha256Of(text: string): string {
  return Array.from(sha256(utf8ToBytes(text)), (byte) => byte.toString(16).padStart(2, "0")).join("");
}
