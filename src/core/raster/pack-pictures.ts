import potpack from "potpack";
import { getOrInsert } from "../base/get-or-insert.ts";
import { MantleError } from "../base/problem.ts";
import type { Rectangle, Size } from "../catalog/model/catalog.ts";
import { createImage, cropImage, type Image } from "./image.ts";
import { pasteBordered } from "./paste-bordered.ts";
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

export interface PackOptions {
  /** The greatest width and height of a page, in pixels: what does not fit goes to further pages. @defaultValue one page, however large */
  readonly size?: number;
  /** Blank pixels between pictures. @defaultValue `1` */
  readonly gap?: number;
  /** How many pixels wide the outermost pixels of each are repeated around it: 1 for engines that smooth pixels. @defaultValue `0` */
  readonly extrude?: number;
}

/** Where a picture lies, without its border, and on which page. */
export interface PackedPlace extends Rectangle {
  readonly page: number;
}

/** Pictures packed into pages, and where each lies there. */
export interface Packed {
  readonly pages: readonly Image[];
  readonly places: readonly (PackedPlace | undefined)[];
}

interface Box {
  readonly picture: Image;
  readonly w: number;
  readonly h: number;
  x: number;
  y: number;
  page: number;
}

/**
 * Packs pictures close; equal ones are kept once.
 *
 * @param imageOf - makes the pictures they are packed into; blank ones when left out.
 * @throws MantleError `picture-too-large`.
 */
export function packPictures(
  pictures: readonly (Image | undefined)[],
  { size = Number.POSITIVE_INFINITY, gap = 1, extrude = 0 }: PackOptions = {},
  imageOf = createImage,
): Packed {
  const kept: Box[] = [];
  const byHash = new Map<number, Box[]>();
  const found = pictures.map((picture) => {
    if (picture === undefined) return undefined;
    const { width, height } = picture;
    const [w, h] = [width + 2 * extrude + gap, height + 2 * extrude + gap];
    if (w - gap > size || h - gap > size) throw tooLarge(w - gap, h - gap, size);
    const alike = getOrInsert(byHash, hashOf(picture), () => []);
    const known = alike.find((box) => isEqual(box.picture, picture));
    if (known !== undefined) return known;
    const box = { picture, w, h, x: 0, y: 0, page: 0 };
    alike.push(box);
    kept.push(box);
    return box;
  });
  const pages = packPages(kept, size, gap).map((page) => {
    const image = imageOf(page.width, page.height);
    image.data.fill(0);
    return image;
  });
  for (const { picture, x, y, page } of kept) {
    const whole = { x: 0, y: 0, width: picture.width, height: picture.height };
    pasteBordered(pages[page] as Image, picture, whole, x, y, extrude);
  }
  const places = found.map((box): PackedPlace | undefined => {
    if (box === undefined) return undefined;
    const { picture, x, y, page } = box;
    return { x: x + extrude, y: y + extrude, width: picture.width, height: picture.height, page };
  });
  return { pages, places };
}

/** The same for equal pictures, and mostly another for others (G. Fowler, L. C. Noll and K.-P. Vo, FNV-1a, 1991). */
function hashOf(picture: Image): number {
  let hash = 0x811c9dc5 ^ picture.width;
  for (const pixel of pixelsOf(picture)) hash = Math.imul(hash ^ pixel, 0x01000193);
  return hash;
}

function isEqual(one: Image, other: Image): boolean {
  if (one.width !== other.width || one.height !== other.height) return false;
  const [mine, theirs] = [pixelsOf(one), pixelsOf(other)];
  return mine.every((pixel, at) => pixel === theirs[at]);
}

function pixelsOf({ data, width, height }: Image): Uint32Array {
  return new Uint32Array(data.buffer, data.byteOffset, width * height);
}

/** Packs boxes page after page, the largest first, on each as many as it can hold. Returns the sizes of the pages. */
function packPages(boxes: readonly Box[], size: number, gap: number): readonly Size[] {
  const waiting = boxes.toSorted((one, other) => other.h - one.h || other.w - one.w);
  const pages: Size[] = [];
  const fits = (count: number) => {
    const { w, h } = potpack(waiting.slice(0, count));
    // The gap to the right and below the last is none that anybody needs.
    return w - gap <= size && h - gap <= size ? { width: Math.min(w, size), height: Math.min(h, size) } : undefined;
  };
  do {
    const all = waiting.length;
    let [low, high] = fits(all) === undefined ? [1, all - 1] : [all, all];
    while (low < high) {
      const middle = Math.ceil((low + high) / 2);
      if (fits(middle) === undefined) high = middle - 1;
      else low = middle;
    }
    pages.push(fits(low) ?? { width: 0, height: 0 });
    for (const box of waiting.splice(0, low)) box.page = pages.length - 1;
  } while (waiting.length > 0);
  return pages;
}

function tooLarge(width: number, height: number, size: number): MantleError {
  return new MantleError(
    "picture-too-large",
    `A picture of ${width}×${height} pixels is too large: ${size} pixels on a side is the most.`,
  );
}
