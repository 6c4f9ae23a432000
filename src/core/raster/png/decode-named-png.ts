import { MantleError } from "../../base/problem.ts";
import type { Image } from "../image.ts";
import { decodePng } from "./decode-png.ts";

/** Decodes a picture of a catalog; what is wrong with it names its path. @throws MantleError `bad-picture`. */
export function decodeNamedPng(path: string, bytes: Uint8Array): Image {
  try {
    return decodePng(bytes);
  } catch (error) {
    throw namedError(path, error);
  }
}

/** What is wrong with a picture, with its path. */
export function namedError(path: string, error: unknown): unknown {
  return error instanceof MantleError ? new MantleError(error.code, `${path}: ${error.message}`) : error;
}
