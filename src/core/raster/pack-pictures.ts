import potpack from "potpack";
import type { Rectangle } from "../catalog/model/catalog.ts";
import { contentName } from "./content-name.ts";
import { createImage, cropImage, type Image, pasteImage } from "./image.ts";
import { visibleBounds } from "./visible-bounds.ts";

/** A picture without its blank edges: what is left, and where that lay. */
export interface Trimmed {
  readonly picture: Image;
  readonly bounds: Rectangle;
}

/** Cuts the blank edges off a picture; `undefined` when nothing is left. */
export function trimPicture(whole: Image): Trimmed | undefined {
  const bounds = visibleBounds(whole);
  return bounds && { picture: cropImage(whole, bounds), bounds };
}

/** Pictures packed into one, and where each lies there. */
export interface Packed {
  readonly image: Image;
  readonly places: readonly (Rectangle | undefined)[];
}

/**
 * Packs pictures close, a pixel apart; equal ones are kept once.
 *
 * @param imageOf - makes the picture they are packed into; a blank one when left out.
 * @throws MantleError `picture-too-large`.
 */
export function packPictures(pictures: readonly (Image | undefined)[], imageOf = createImage): Packed {
  const kept = new Map<string, { readonly picture: Image; box: { x: number; y: number; w: number; h: number } }>();
  const found = pictures.map((picture) => {
    if (picture === undefined) return undefined;
    const { width, height, data } = picture;
    const key = contentName(`${width}`, new Uint8Array(data.buffer, data.byteOffset, data.byteLength));
    const known = kept.get(key) ?? { picture, box: { x: 0, y: 0, w: width + 1, h: height + 1 } };
    kept.set(key, known);
    return known;
  });
  const { w, h } = potpack([...kept.values()].map(({ box }) => box));
  const image = imageOf(w, h);
  image.data.fill(0);
  for (const { picture, box } of kept.values()) pasteImage(image, picture, box.x, box.y);
  const places = found.map(
    (each) => each && { x: each.box.x, y: each.box.y, width: each.picture.width, height: each.picture.height },
  );
  return { image, places };
}
