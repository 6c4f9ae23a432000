import { createHash } from "node:crypto";
import type { Image } from "zealous-mantle";

/** The first letters of the SHA-256 of a picture's pixels: equal for equal pictures. */
export function pictureSum(image: Image): string {
  return createHash("sha256").update(image.data).digest("hex").slice(0, 12);
}
