import type { Image } from "../raster/image.ts";
import { decodeNamedPng } from "../raster/png/decode-named-png.ts";

/** Decodes a picture of art. @param blank - a key color, as `0xrrggbb`, that means nothing is there. @throws MantleError `bad-picture`. */
export function artPicture(name: string, bytes: Uint8Array, blank?: number): Image {
  const image = decodeNamedPng(name, bytes);
  if (blank === undefined) return image;
  const key = [blank >> 16, (blank >> 8) & 255, blank & 255];
  for (let at = 0; at < image.data.length; at += 4)
    if (key.every((part, channel) => image.data[at + channel] === part)) image.data.fill(0, at, at + 4);
  return image;
}

/** The name of a file without its folders. */
export function fileName(path: string): string {
  return path.slice(path.lastIndexOf("/") + 1);
}

/** The first of some files, and its name without folders. */
export function firstFile(files: ReadonlyMap<string, Uint8Array>): readonly [name: string, bytes: Uint8Array] {
  const [[path, bytes] = ["", new Uint8Array()]] = files;
  return [fileName(path), bytes];
}
