import type { Rectangle, Size } from "../../catalog/model/catalog.ts";
import type { Image } from "../../raster/image.ts";
import type { Cells } from "../../raster/sheet.ts";

/** Which pixels of a frame are visible: a bit each, rows of whole words. */
export interface Mask {
  readonly width: number;
  readonly height: number;
  /** 32 pixels a word, row by row. */
  readonly bits: Uint32Array;
  /** How many are visible. */
  readonly count: number;
}

/** The mask of what shows nothing. */
export const nothing: Mask = { width: 0, height: 0, bits: new Uint32Array(0), count: 0 };

/** The visible pixels of a picture. @param alpha - how opaque a pixel has to be, 1 to 255: shadows touch nothing. */
export function maskOf({ width, height, data }: Image, alpha = 1): Mask {
  const words = (width + 31) >> 5;
  const bits = new Uint32Array(words * height);
  const pixels = new Uint32Array(data.buffer, data.byteOffset, width * height);
  let count = 0;
  for (let y = 0, at = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1, at += 1) {
      if ((pixels[at] as number) >>> 24 < alpha) continue;
      const word = y * words + (x >> 5);
      bits[word] = (bits[word] as number) | (1 << (x & 31));
      count += 1;
    }
  return { width, height, bits, count };
}

/** Where a cell is drawn, and in which colors. */
export interface CellPlace {
  readonly table: Uint32Array;
  /** 0 to 1. */
  readonly opacity: number;
  readonly x: number;
  readonly y: number;
  /** The width of the cell if it is mirrored, or 0. */
  readonly mirror: number;
}

/** A mask that cells are drawn into, run by run. */
export class MaskDrawing {
  readonly #width: number;
  readonly #height: number;
  readonly #words: number;
  readonly #bits: Uint32Array;
  readonly #alpha: number;

  /** @param alpha - how opaque a pixel has to be, 1 to 255. */
  constructor({ width, height }: Size, alpha: number) {
    this.#width = width;
    this.#height = height;
    this.#words = (width + 31) >> 5;
    this.#bits = new Uint32Array(this.#words * height);
    this.#alpha = alpha;
  }

  add({ runs, starts, firsts, indices }: Cells, cell: number, { table, opacity, x, y, mirror }: CellPlace): void {
    if (opacity * 255 < this.#alpha) return;
    const bits = this.#bits;
    let packed = firsts[cell] as number;
    for (let run = starts[cell] as number; run < (starts[cell + 1] as number); run += 3) {
      const row = y + (runs[run] as number);
      const column = runs[run + 1] as number;
      const length = runs[run + 2] as number;
      const count = length < 0 ? -length : length;
      const own = packed;
      packed += count;
      if (row < 0 || row >= this.#height) continue;
      for (let at = 0; at < count; at += 1) {
        // A run of positive length is opaque; of others each pixel is asked.
        if (length < 0 && (table[indices[own + at] as number] as number) >>> 24 < this.#alpha) continue;
        const across = x + (mirror === 0 ? column + at : mirror - 1 - column - at);
        if (across < 0 || across >= this.#width) continue;
        const word = row * this.#words + (across >> 5);
        bits[word] = (bits[word] as number) | (1 << (across & 31));
      }
    }
  }

  mask(): Mask {
    let count = 0;
    for (let word = 0; word < this.#bits.length; word += 1) count += ones(this.#bits[word] as number);
    return { width: this.#width, height: this.#height, bits: this.#bits, count };
  }
}

/** The runs of a mask: row, first column, column after the last, one after another. */
export function runsOf({ width, height, bits }: Mask): readonly number[] {
  const words = (width + 31) >> 5;
  const runs: number[] = [];
  for (let y = 0; y < height; y += 1) {
    let from = -1;
    for (let word = 0; word < words; word += 1) {
      const own = bits[y * words + word] as number;
      if (own === 0 && from < 0) continue;
      for (let bit = 0; bit < 32; bit += 1) {
        const isSet = ((own >>> bit) & 1) === 1;
        if (isSet && from < 0) from = word * 32 + bit;
        else if (!isSet && from >= 0) {
          runs.push(y, from, word * 32 + bit);
          from = -1;
        }
      }
    }
    if (from >= 0) runs.push(y, from, words * 32);
  }
  return runs;
}

/** A mask of the same size that has only some runs. */
export function maskOfRuns({ width, height, bits }: Mask, runs: readonly number[]): Mask {
  const words = (width + 31) >> 5;
  const own = new Uint32Array(bits.length);
  let count = 0;
  for (let at = 0; at < runs.length; at += 3)
    for (let x = runs[at + 1] as number; x < (runs[at + 2] as number); x += 1) {
      const word = (runs[at] as number) * words + (x >> 5);
      own[word] = (own[word] as number) | (1 << (x & 31));
      count += 1;
    }
  return { width, height, bits: own, count };
}

/** The pixels that are visible in either. */
export function united({ width, height, bits }: Mask, other: Mask): Mask {
  const both = new Uint32Array(bits.length);
  let count = 0;
  for (let word = 0; word < bits.length; word += 1) {
    both[word] = (bits[word] as number) | (other.bits[word] as number);
    count += ones(both[word] as number);
  }
  return { width, height, bits: both, count };
}

/** The pixels that are visible in both. */
export function intersection({ width, height, bits }: Mask, other: Mask): Mask {
  const both = bits.map((word, at) => word & (other.bits[at] as number));
  return { width, height, bits: both, count: both.reduce((sum, word) => sum + ones(word), 0) };
}

/** How many pixels are visible in both. */
export function overlap(one: Mask, other: Mask): number {
  let count = 0;
  // A mask that shows nothing may have no bits at all.
  const words = Math.min(one.bits.length, other.bits.length);
  for (let word = 0; word < words; word += 1) count += ones((one.bits[word] as number) & (other.bits[word] as number));
  return count;
}

/** The pixels of a mask, and all that touch them, corners too. */
export function grown({ width, height, bits }: Mask): Mask {
  const words = (width + 31) >> 5;
  const wide = new Uint32Array(bits.length);
  for (let word = 0; word < bits.length; word += 1) {
    const own = bits[word] as number;
    const isFirst = word % words === 0;
    const isLast = word % words === words - 1;
    const before = isFirst ? 0 : (bits[word - 1] as number) >>> 31;
    const after = isLast ? 0 : ((bits[word + 1] as number) & 1) << 31;
    wide[word] = own | (own << 1) | (own >>> 1) | before | after;
  }
  const high = new Uint32Array(bits.length);
  let count = 0;
  for (let word = 0; word < bits.length; word += 1) {
    const above = word >= words ? (wide[word - words] as number) : 0;
    const below = word + words < wide.length ? (wide[word + words] as number) : 0;
    high[word] = (wide[word] as number) | above | below;
    count += ones(high[word] as number);
  }
  return { width, height, bits: high, count };
}

/** The pixels that are not visible, and have some that are on all four sides: those of every hole, and of bays besides. */
export function shutIn({ width, height, bits }: Mask): Mask {
  const words = (width + 31) >> 5;
  const within = new Uint32Array(bits.length);
  const across = (step: 1 | -1) => {
    for (let row = 0; row < height; row += 1) {
      let carry = 0;
      for (let at = 0; at < words; at += 1) {
        const word = row * words + (step === 1 ? at : words - 1 - at);
        let filled = (bits[word] as number) | (step === 1 ? carry : carry << 31);
        for (let by = 1; by < 32; by <<= 1) filled |= step === 1 ? filled << by : filled >>> by;
        carry = step === 1 ? filled >>> 31 : filled & 1;
        within[word] = step === 1 ? filled : (within[word] as number) & filled;
      }
    }
  };
  const down = (step: 1 | -1) => {
    const passed = new Uint32Array(words);
    for (let at = 0; at < height; at += 1)
      for (let column = 0; column < words; column += 1) {
        const word = (step === 1 ? at : height - 1 - at) * words + column;
        passed[column] = (passed[column] as number) | (bits[word] as number);
        within[word] = (within[word] as number) & (passed[column] as number);
      }
  };
  across(1);
  across(-1);
  down(1);
  down(-1);
  let count = 0;
  for (let word = 0; word < within.length; word += 1) {
    within[word] = (within[word] as number) & ~(bits[word] as number);
    count += ones(within[word] as number);
  }
  return { width, height, bits: within, count };
}

/** The box around what is visible; `undefined` when nothing is. */
export function boundsOf({ width, height, bits, count }: Mask): Rectangle | undefined {
  if (count === 0) return undefined;
  const words = (width + 31) >> 5;
  let [left, right, top, bottom] = [width, -1, height, -1];
  for (let y = 0; y < height; y += 1)
    for (let word = 0; word < words; word += 1) {
      const own = bits[y * words + word] as number;
      if (own === 0) continue;
      top = Math.min(top, y);
      bottom = y;
      left = Math.min(left, word * 32 + 31 - Math.clz32(own & -own));
      right = Math.max(right, word * 32 + 31 - Math.clz32(own));
    }
  return { x: left, y: top, width: right - left + 1, height: bottom - top + 1 };
}

/** How many bits of a word are set (H. S. Warren, "Hacker's Delight", 2002). */
function ones(word: number): number {
  let left = word - ((word >>> 1) & 0x55555555);
  left = (left & 0x33333333) + ((left >>> 2) & 0x33333333);
  return Math.imul((left + (left >>> 4)) & 0x0f0f0f0f, 0x01010101) >>> 24;
}
