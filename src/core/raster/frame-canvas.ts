import { blendOver } from "./blend.ts";
import type { Image } from "./image.ts";
import type { Cells } from "./sheet.ts";

/**
 * One frame being composed, front to back.
 *
 * Every opaque pixel is written once, by the nearest layer that covers it. What is covered of a row is mostly one stretch, so a
 * hidden run costs two comparisons; only a row covered in several places is looked up bit by bit, 32 pixels to a word.
 * Translucent pixels wait until what lies behind them is there.
 */
export class FrameCanvas {
  #pixels: Uint32Array = new Uint32Array(0);
  #stride = 0;
  /** Where the frame begins in the target. */
  #start = 0;
  #width = 0;
  #height = 0;
  /** Words of 32 pixels a row. */
  #words = 0;
  /** The covered stretch of each row: from here, and up to there. */
  #from = new Int32Array(0);
  #upTo = new Int32Array(0);
  /** Whether a row is covered in several places; if so, all of them are in its bits. */
  #isBroken = new Uint8Array(0);
  #bits = new Int32Array(0);
  readonly #waiting: Waiting[] = [];

  /** Begins a frame-sized, blank place of a picture. */
  begin(target: Image, x: number, y: number, width: number, height: number): void {
    if (this.#pixels.buffer !== target.data.buffer || this.#pixels.byteOffset !== target.data.byteOffset) {
      this.#pixels = new Uint32Array(target.data.buffer, target.data.byteOffset, target.width * target.height);
    }
    this.#stride = target.width;
    this.#start = y * target.width + x;
    this.#width = Math.min(width, target.width - x);
    this.#height = Math.min(height, target.height - y);
    this.#words = (this.#width + 31) >> 5;
    if (this.#from.length < this.#height) {
      this.#from = new Int32Array(this.#height);
      this.#upTo = new Int32Array(this.#height);
      this.#isBroken = new Uint8Array(this.#height);
    }
    if (this.#bits.length < this.#height * this.#words) this.#bits = new Int32Array(this.#height * this.#words);
    this.#from.fill(0, 0, this.#height);
    this.#upTo.fill(0, 0, this.#height);
    this.#isBroken.fill(0, 0, this.#height);
    this.#waiting.length = 0;
  }

  /**
   * Draws a cell behind everything drawn before, with its upper left corner at left, top.
   *
   * One loop with plain numbers: in steps that hand each other an object it takes half as much time again.
   *
   * @param mirror - the width of the cell if it is to be mirrored, or 0.
   * @param isTranslucent - whether what is opaque in the picture is not opaque in the table.
   */
  drawBehind(
    cells: Cells,
    cell: number,
    table: Uint32Array,
    isTranslucent: boolean,
    left: number,
    top: number,
    mirror: number,
  ): void {
    const { runs, starts, indices } = cells;
    const pixels = this.#pixels;
    const width = this.#width;
    const height = this.#height;
    const froms = this.#from;
    const upTos = this.#upTo;
    const isBroken = this.#isBroken;
    const start = this.#start;
    const stride = this.#stride;
    const step = mirror === 0 ? 1 : -1;
    const last = starts[cell + 1] as number;
    let packed = cells.firsts[cell] as number;
    // Whole numbers of 32 bits, marked by `| 0`, keep the engine from counting in floating point.
    for (let run = starts[cell] as number; run < last; run = (run + 3) | 0) {
      const y = (top + (runs[run] as number)) | 0;
      const column = runs[run + 1] as number;
      const length = runs[run + 2] as number;
      const count = length < 0 ? -length | 0 : length;
      const own = packed;
      packed = (packed + count) | 0;
      if (y < 0 || y >= height) continue;
      const begin = (left + (mirror === 0 ? column : mirror - column - count)) | 0;
      const stop = (begin + count) | 0;
      const from = Math.max(begin, 0);
      const upTo = Math.min(stop, width);
      if (from >= upTo) continue;
      const coveredFrom = froms[y] as number;
      const coveredTo = upTos[y] as number;
      if (from >= coveredFrom && upTo <= coveredTo) continue;
      // Where in the row the first index of the run is read from: its pixel, or in a mirrored run its last.
      const first = mirror === 0 ? (own - begin) | 0 : (own + stop - 1) | 0;
      const row = (start + y * stride) | 0;
      const isOpaque = length > 0 && !isTranslucent;
      const isApart = coveredFrom < coveredTo && (upTo < coveredFrom || from > coveredTo);
      if (isBroken[y] === 1 || (isApart && isOpaque)) {
        if (isBroken[y] === 0) this.#breakRow(y, coveredFrom, coveredTo);
        this.#drawBits(cells, table, isOpaque, y, from, upTo, row, first, step);
      } else if (!isOpaque) {
        if (isApart || coveredFrom === coveredTo) this.#wait(indices, table, row, from, upTo, first, step);
        else {
          this.#wait(indices, table, row, from, coveredFrom, first, step);
          this.#wait(indices, table, row, coveredTo, upTo, first, step);
        }
      } else if (coveredFrom === coveredTo) {
        copy(pixels, row, from, upTo, indices, first, step, table);
        froms[y] = from;
        upTos[y] = upTo;
      } else {
        if (from < coveredFrom) {
          copy(pixels, row, from, coveredFrom, indices, first, step, table);
          froms[y] = from;
        }
        if (upTo > coveredTo) {
          copy(pixels, row, coveredTo, upTo, indices, first, step, table);
          upTos[y] = upTo;
        }
      }
    }
  }

  /** From now on, what is covered of a row is kept bit by bit. */
  #breakRow(y: number, from: number, upTo: number): void {
    this.#isBroken[y] = 1;
    const start = y * this.#words;
    for (let word = 0; word < this.#words; word += 1) this.#bits[start + word] = bitsOf(word, from, upTo);
  }

  #drawBits(
    { indices }: Cells,
    table: Uint32Array,
    isOpaque: boolean,
    y: number,
    from: number,
    upTo: number,
    row: number,
    first: number,
    step: 1 | -1,
  ): void {
    const start = y * this.#words;
    for (let word = from >> 5; word << 5 < upTo; word += 1) {
      const covered = this.#bits[start + word] as number;
      let open = bitsOf(word, from, upTo) & ~covered;
      if (isOpaque) this.#bits[start + word] = covered | open;
      while (open !== 0) {
        const low = 31 - Math.clz32(open & -open);
        // The lowest place after `low` that is not open.
        const gap = ~(open | ((1 << low) - 1));
        const end = gap === 0 ? 32 : 31 - Math.clz32(gap & -gap);
        open &= gap === 0 ? 0 : -1 << end;
        const x = word << 5;
        if (isOpaque) copy(this.#pixels, row, x + low, x + end, indices, first, step, table);
        else this.#wait(indices, table, row, x + low, x + end, first, step);
      }
    }
  }

  #wait(
    indices: Cells["indices"],
    table: Uint32Array,
    row: number,
    from: number,
    upTo: number,
    first: number,
    step: 1 | -1,
  ): void {
    if (from < upTo) this.#waiting.push({ indices, table, row, from, upTo, first, step });
  }

  /** Ends the frame: lays translucent pixels over what lies behind them, and gives all of it its opacity. */
  end(opacity: number): void {
    const pixels = this.#pixels;
    for (let number = this.#waiting.length - 1; number >= 0; number -= 1) {
      const { indices, table, row, from, upTo, first, step } = this.#waiting[number] as Waiting;
      for (let x = from; x < upTo; x += 1) {
        const over = table[indices[first + x * step] as number] as number;
        pixels[row + x] = blendOver(over, pixels[row + x] as number);
      }
    }
    if (opacity === 1) return;
    for (let y = 0; y < this.#height; y += 1) {
      const row = this.#start + y * this.#stride;
      for (let at = row; at < row + this.#width; at += 1) {
        const color = pixels[at] as number;
        pixels[at] = ((Math.round((color >>> 24) * opacity) << 24) | (color & 0xffffff)) >>> 0;
      }
    }
  }
}

/** Translucent pixels of one run. */
interface Waiting {
  readonly indices: Cells["indices"];
  readonly table: Uint32Array;
  readonly row: number;
  readonly from: number;
  readonly upTo: number;
  readonly first: number;
  readonly step: 1 | -1;
}

/** The bits of a word that lie in a stretch of its row. */
function bitsOf(word: number, from: number, upTo: number): number {
  const low = Math.max(0, from - (word << 5));
  const high = Math.min(32, upTo - (word << 5));
  if (low >= high) return 0;
  return (high === 32 ? -1 : (1 << high) - 1) & (-1 << low);
}

/** Writes the pixels of a row from one place up to another; the index of place x is read at `first + x * step`. */
function copy(
  pixels: Uint32Array,
  row: number,
  from: number,
  upTo: number,
  indices: Cells["indices"],
  first: number,
  step: 1 | -1,
  table: Uint32Array,
): void {
  const stop = (row + upTo) | 0;
  let at = (row + from) | 0;
  if (step === 1) {
    for (let index = (first + from) | 0; at < stop; at = (at + 1) | 0, index = (index + 1) | 0) {
      pixels[at] = table[indices[index] as number] as number;
    }
  } else {
    for (let index = (first - from) | 0; at < stop; at = (at + 1) | 0, index = (index - 1) | 0) {
      pixels[at] = table[indices[index] as number] as number;
    }
  }
}
