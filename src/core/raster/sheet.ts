import { getOrInsert } from "../base/get-or-insert.ts";
import { MantleError } from "../base/problem.ts";
import type { Rectangle, SlicedImage } from "../catalog/model/catalog.ts";
import type { Image } from "./image.ts";

/**
 * A picture prepared for composing.
 *
 * Visible pixels are indices into a table of colors, so that a recolor is a new table and never a new picture. They lie packed
 * one after another, cell by cell in runs, so that blank pixels cost nothing and what is read is read in order.
 */
export interface Sheet {
  readonly image: Image;
  /** Straight RGBA of each index, as `0xAABBGGRR`. Index 0 is transparent. */
  readonly table: Uint32Array;
  readonly indexOf: ReadonlyMap<number, number>;
  readonly cells: Cells;
  /** Cells drawn at another size or turned, by how. */
  readonly changed: Map<string, Cells>;
}

/** The visible pixels of some cells. */
export interface Cells {
  /** The index of each visible pixel, run after run; 8 bits wide whenever the picture has at most 256 colors. */
  readonly indices: Uint8Array | Uint32Array;
  /** For each run: row and column in its cell, and length; that of a translucent run is negative. */
  readonly runs: Int16Array;
  /** Where the runs of each cell begin, with the end of the last. */
  readonly starts: Int32Array;
  /** Where the indices of each cell begin. */
  readonly firsts: Int32Array;
}

const prepared = new WeakMap<Image, Map<string, Sheet>>();

/**
 * The prepared form of a picture that is cut into cells, made on first use and kept as long as the picture.
 *
 * @param blank - a color that means nothing is there, `0xRRGGBB`.
 * @param prepare - makes it, where there is a shorter way.
 * @throws MantleError `picture-too-large`.
 */
export function sheetOf(image: Image, { key, cells }: SlicedImage, blank?: number, prepare = prepareSheet): Sheet {
  const sheets = getOrInsert(prepared, image, () => new Map<string, Sheet>());
  return getOrInsert(sheets, blank === undefined ? key : `${key} ${blank}`, () => prepare(image, cells, blank));
}

/** Places in a cell are kept in 16 bits. */
const longestSide = 32_767;

/** Prepares a picture pixel by pixel. @throws as `sheetOf` does. */
export function prepareSheet(image: Image, places: readonly Rectangle[], blank: number | undefined): Sheet {
  const { colors, indexOf, plane, visible } = indexPixels(image, blank);
  const packer = new CellPacker(colors, visible);
  for (const { x, y, width, height } of places) {
    if (width > longestSide || height > longestSide) throw tooLarge(width, height);
    // Cells of a picture that was cut short are blank where it ends.
    const count = Math.min(width, image.width - x);
    const rows = Math.min(height, image.height - y);
    for (let row = 0; row < rows && count > 0; row += 1) packer.addRow(row, plane, (y + row) * image.width + x, count);
    packer.endCell();
  }
  return { image, table: Uint32Array.from(colors), indexOf, cells: packer.pack(), changed: new Map() };
}

function tooLarge(width: number, height: number): MantleError {
  return new MantleError(
    "picture-too-large",
    `A cell of ${width}×${height} pixels cannot be drawn. Make it at most ${longestSide} pixels on a side.`,
  );
}

/** The pixels of a picture as indices into its colors. */
export interface IndexedPixels {
  /** As `0xAABBGGRR`; the first is transparent. */
  readonly colors: readonly number[];
  readonly indexOf: ReadonlyMap<number, number>;
  /** An index for each pixel, row by row. */
  readonly plane: Uint32Array;
  /** How many are not transparent. */
  readonly visible: number;
}

/** The pixels of a picture as indices into its colors. */
export function indexPixels(image: Image, blank: number | undefined): IndexedPixels {
  const pixels = new Uint32Array(image.data.buffer, image.data.byteOffset, image.width * image.height);
  const plane = new Uint32Array(pixels.length);
  const colors: number[] = [0];
  const indexOf = new Map<number, number>();
  const nothing = blank === undefined ? -1 : swapRedAndBlue(blank);
  let [lastColor, lastIndex, visible] = [0, 0, 0];
  for (let at = 0; at < pixels.length; at += 1) {
    const color = pixels[at] as number;
    if (color >>> 24 === 0) continue;
    if (color !== lastColor) {
      // Blank in any strength: edges of a key color are often translucent.
      if ((color & 0xffffff) === nothing) continue;
      lastColor = color;
      lastIndex = indexOf.get(color) ?? 0;
      if (lastIndex === 0) {
        lastIndex = colors.push(color) - 1;
        indexOf.set(color, lastIndex);
      }
    }
    plane[at] = lastIndex;
    visible += 1;
  }
  return { colors, indexOf, plane, visible };
}

/** Gathers the visible pixels of cells, row by row. */
export class CellPacker {
  readonly #isOpaque: Uint8Array;
  #indices: Uint8Array<ArrayBuffer> | Uint32Array<ArrayBuffer>;
  #count = 0;
  readonly #runs: number[] = [];
  readonly #starts: number[] = [0];
  readonly #firsts: number[] = [0];

  /** @param count - how many pixels are visible; more where cells overlap. */
  constructor(colors: ArrayLike<number>, count: number) {
    this.#isOpaque = Uint8Array.from(colors, (color) => (color >>> 24 === 255 ? 1 : 0));
    this.#indices = colors.length <= 256 ? new Uint8Array(count) : new Uint32Array(count);
  }

  /** Adds a row of the cell that is being gathered: so many indices of a plane. @param left - how far from the cell's edge they begin. */
  addRow(y: number, plane: Uint32Array | Uint8Array, from: number, count: number, left = 0): void {
    const isOpaque = this.#isOpaque;
    const end = from + count;
    let packed = this.#count;
    if (packed + count > this.#indices.length && packed + visibleIn(plane, from, end) > this.#indices.length)
      this.#grow(count);
    const indices = this.#indices;
    for (let at = from; at < end; ) {
      let index = plane[at] as number;
      if (index === 0) {
        at += 1;
        continue;
      }
      const start = at;
      const kind = isOpaque[index];
      while (index !== 0 && isOpaque[index] === kind) {
        indices[packed] = index;
        packed += 1;
        at += 1;
        if (at === end) break;
        index = plane[at] as number;
      }
      this.#runs.push(y, left + start - from, kind === 1 ? at - start : start - at);
    }
    this.#count = packed;
  }

  #grow(count: number): void {
    const old = this.#indices;
    const length = 2 * old.length + count;
    this.#indices = old instanceof Uint8Array ? new Uint8Array(length) : new Uint32Array(length);
    this.#indices.set(old);
  }

  endCell(): void {
    this.#starts.push(this.#runs.length);
    this.#firsts.push(this.#count);
  }

  pack(): Cells {
    return {
      indices: this.#indices.slice(0, this.#count),
      runs: Int16Array.from(this.#runs),
      starts: Int32Array.from(this.#starts),
      firsts: Int32Array.from(this.#firsts),
    };
  }
}

function visibleIn(plane: Uint32Array | Uint8Array, from: number, end: number): number {
  let visible = 0;
  for (let at = from; at < end; at += 1) if (plane[at] !== 0) visible += 1;
  return visible;
}

/** `0x..BBGGRR` to `0xRRGGBB`, and back. */
export function swapRedAndBlue(color: number): number {
  return ((color & 0xff) << 16) | (color & 0xff00) | ((color >> 16) & 0xff);
}
