import { sha256 } from "@noble/hashes/sha2.js";
import { utf8ToBytes } from "@noble/hashes/utils.js";

/** The SHA-256 of a text in UTF-8, in hexadecimal. */
export function sha256Of(text: string): string {
  let digits = "";
  for (const byte of sha256(utf8ToBytes(text))) digits += (byte < 16 ? "0" : "") + byte.toString(16);
  return digits;
}
