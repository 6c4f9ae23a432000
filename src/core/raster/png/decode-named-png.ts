import { MantleError } from "../../base/problem.ts";
import type { Image } from "../image.ts";
import { decodePng } from "./decode-png.ts";

/** Decodes a picture of a catalog; what is wrong with it names its path. @throws MantleError `bad-picture`. */
export function decodeNamedPng(path: string, bytes: Uint8Array): Image {
  try {
    return decodePng(bytes);
  } catch (error) {
    if (error instanceof MantleError) throw new MantleError(error.code, `${path}: ${error.message}`);
    throw error;
  }
}
