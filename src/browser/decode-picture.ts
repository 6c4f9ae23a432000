import type { Image } from "../core/raster/image.ts";
import { badPicture } from "../core/raster/png/chunks.ts";
import { namedError } from "../core/raster/png/decode-named-png.ts";
import { decodeIndexedWith, decodePngWith, type IndexedRows } from "../core/raster/png/decode-png.ts";

/**
 * Decodes a picture of a catalog. Its bytes are unpacked by the browser, which is several times as fast, and its pixels are read here: a
 * canvas would round translucent ones.
 *
 * @throws MantleError `bad-picture`, naming the path.
 */
export async function decodePicture(path: string, bytes: Uint8Array): Promise<Image> {
  return decodePngWith(bytes, inflate).catch((error: unknown) => {
    throw namedError(path, error);
  });
}

/** Decodes a page of a bundle, of which the indices are enough. @throws as `decodePicture` does. */
export async function decodePage(path: string, bytes: Uint8Array): Promise<Image | IndexedRows> {
  return decodeIndexedWith(bytes, inflate).catch((error: unknown) => {
    throw namedError(path, error);
  });
}

/** Unpacks exactly so many bytes, and stops as soon as there are more, so that a small file cannot fill the memory. */
async function inflate(packed: Uint8Array, length: number): Promise<Uint8Array> {
  const rows = new Uint8Array(length);
  let filled = 0;
  const packedStream = new Blob([packed as Uint8Array<ArrayBuffer>]).stream();
  const reader = packedStream.pipeThrough(new DecompressionStream("deflate")).getReader();
  for (;;) {
    const { done, value } = await reader.read().catch((error: unknown) => {
      throw badPicture(`its pixels are damaged (${error instanceof Error ? error.message : String(error)})`);
    });
    if (done) break;
    if (filled + value.length > length) {
      await reader.cancel();
      throw badPicture("it holds more than its header says");
    }
    rows.set(value, filled);
    filled += value.length;
  }
  if (filled < length) throw badPicture("its end is missing");
  return rows;
}
