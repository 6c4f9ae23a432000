import { strFromU8, unzipSync } from "fflate";
import { limits } from "../../base/limits.ts";
import { blendPicture } from "../../raster/blend-picture.ts";
import { createImage, type Image } from "../../raster/image.ts";
import { decodeNamedPng } from "../../raster/png/decode-named-png.ts";
import { bad, readStack, type Stack, type StackItem } from "./read-stack.ts";

/** A drawing in layers, opened. */
export interface Drawing extends Stack {
  /** The picture of a layer, decoded when it is asked for. @throws MantleError `bad-picture`, `bad-drawing`. */
  picture(item: StackItem): Image;
  /** The picture of the whole that the file brings; `undefined` when it has none. */
  whole(): Image | undefined;
}

/**
 * Opens an OpenRaster file (the open specification of freedesktop.org): a zip with `stack.xml` and a PNG for each layer. No more is unpacked
 * than a picture may have, whatever the file says of itself.
 *
 * @throws MantleError `bad-drawing`.
 */
export function openDrawing(bytes: Uint8Array): Drawing {
  const files = unpack(bytes);
  const xml = files["stack.xml"];
  if (xml === undefined) throw bad("it has no stack.xml");
  const stack = readStack(strFromU8(xml));
  const decode = (path: string) => {
    const file = files[path];
    if (file === undefined) throw bad(`${path} is missing in it`);
    return decodeNamedPng(path, file);
  };
  const decoded = new Map<string, Image>();
  return {
    ...stack,
    picture({ source = "" }) {
      const image = decoded.get(source) ?? decode(source);
      decoded.set(source, image);
      return image;
    },
    whole: () => (files["mergedimage.png"] === undefined ? undefined : decode("mergedimage.png")),
  };
}

function unpack(bytes: Uint8Array): Readonly<Record<string, Uint8Array>> {
  let left: number = limits.pictureBytes * 2;
  try {
    return unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        const isNeeded = name === "stack.xml" || name.endsWith(".png");
        if (!isNeeded || name.startsWith("Thumbnails/")) return false;
        left -= originalSize;
        if (left < 0) throw bad("it unpacks to more than drawings may have");
        return true;
      },
    });
  } catch (error) {
    throw error instanceof Error && "code" in error && error.code === "bad-drawing"
      ? error
      : bad(`it is no zip, or a damaged one (${error instanceof Error ? error.message : String(error)})`);
  }
}

/** The layers of a drawing, back to front, groups opened. */
export function layersOf(items: readonly StackItem[]): readonly StackItem[] {
  return items.toReversed().flatMap((item) => (item.source === undefined ? layersOf(item.items) : [item]));
}

/** Lays the layers that are not hidden over one another, each with its opacity. */
export function flatten(drawing: Drawing): Image {
  const { width, height, items } = drawing;
  const flat = createImage(width, height);
  for (const item of layersOf(items)) {
    if (!item.isHidden) blendPicture(flat, drawing.picture(item), item.x, item.y, item.opacity);
  }
  return flat;
}
