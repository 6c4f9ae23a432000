import { MaxRectsBin, Rectangle as Slot } from "maxrects-packer";
import type { Rectangle } from "../catalog/model/catalog.ts";
import type { Image } from "./image.ts";
import { pasteBordered } from "./paste-bordered.ts";

/** A square picture of many frames. */
export interface AtlasPage {
  /** Width and height, in pixels. */
  readonly size: number;
  /** Row-major RGBA, `size * size * 4` bytes. */
  readonly data: Uint8ClampedArray;
  /** Grows with every change of the pixels. */
  readonly version: number;
  /** What changed since the last `flush` of the atlas; `undefined` while nothing did. */
  readonly changed: Rectangle | undefined;
}

/** Frames are packed in places of whole steps, so that one that makes room makes it for another of about its size. */
const step = 8;

/** A page in the making. */
export class OpenPage implements AtlasPage {
  readonly data: Uint8ClampedArray;
  version = 0;
  changed: Rectangle | undefined;
  readonly #bin: MaxRectsBin;

  constructor(readonly size: number) {
    this.data = new Uint8ClampedArray(size * size * 4);
    this.#bin = new MaxRectsBin(size, size, 0, { smart: false, pot: false, square: false });
  }

  /** Finds a place; `undefined` when there is none. */
  take(width: number, height: number): Rectangle | undefined {
    const up = (length: number) => Math.min(this.size, Math.ceil(length / step) * step);
    const slot = this.#bin.add(up(width), up(height), undefined);
    // The packer keeps a list of what it placed, which nobody reads here.
    this.#bin.rects.length = 0;
    return slot && { x: slot.x, y: slot.y, width: slot.width, height: slot.height };
  }

  /** Gives a place back. */
  give({ x, y, width, height }: Rectangle): void {
    this.#bin.freeRects.push(new Slot(width, height, x, y));
  }

  /** Gives all places back. */
  reset(): void {
    this.#bin.reset(true);
  }

  /**
   * Writes a part of a picture into a place, some pixels from its corner, and blank pixels around it.
   *
   * @param border - how many pixels wide the outermost pixels are repeated around it.
   */
  write(picture: Image, from: Rectangle, place: Rectangle, border: number, multiply: boolean): void {
    const { data, size } = this;
    for (let y = place.y; y < place.y + place.height; y += 1)
      data.fill(0, (y * size + place.x) * 4, (y * size + place.x + place.width) * 4);
    pasteBordered({ width: size, height: size, data }, picture, from, place.x, place.y, border);
    for (let y = place.y; multiply && y < place.y + place.height; y += 1)
      multiplyByAlpha(data, (y * size + place.x) * 4, place.width);
    this.version += 1;
    this.changed = this.changed === undefined ? place : around(this.changed, place);
  }
}

/** Multiplies the colors of some pixels by their alpha, rounded to the nearest whole number. */
function multiplyByAlpha(data: Uint8ClampedArray, start: number, count: number): void {
  for (let at = start; at < start + count * 4; at += 4) {
    const alpha = data[at + 3] as number;
    if (alpha === 255) continue;
    for (let byte = at; byte < at + 3; byte += 1) data[byte] = ((data[byte] as number) * alpha) / 255;
  }
}

/** The rectangle around two. */
function around(one: Rectangle, other: Rectangle): Rectangle {
  const [x, y] = [Math.min(one.x, other.x), Math.min(one.y, other.y)];
  return {
    x,
    y,
    width: Math.max(one.x + one.width, other.x + other.width) - x,
    height: Math.max(one.y + one.height, other.y + other.height) - y,
  };
}
