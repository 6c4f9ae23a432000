import { blendOver } from "./blend.ts";
import type { Image } from "./image.ts";
import type { Cells } from "./sheet.ts";

/**
 * One frame being composed, front to back.
 *
 * Every opaque pixel is written once, by the nearest layer that covers it: a bit for each pixel of the frame says whether it is
 * covered, so a run that is hidden costs one look at a word of 32. Translucent pixels wait until what lies behind them is there.
 */
export class FrameCanvas {
  #pixels = new Uint32Array(0);
  #stride = 0;
  /** Where the frame begins in the target. */
  #start = 0;
  #width = 0;
  #height = 0;
  /** Words of 32 pixels a row. */
  #words = 0;
  #covered = new Int32Array(0);
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
    const size = this.#words * this.#height;
    if (this.#covered.length < size) this.#covered = new Int32Array(size);
    else this.#covered.fill(0, 0, size);
    this.#waiting.length = 0;
  }

  /**
   * Draws a cell behind everything drawn before, with its upper left corner at left, top.
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
    const covered = this.#covered;
    const pixels = this.#pixels;
    const width = this.#width;
    const height = this.#height;
    const words = this.#words;
    const stride = this.#stride;
    const start = this.#start;
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
      const end = Math.min(stop, width);
      const isOpaque = length > 0 && !isTranslucent;
      for (let at = Math.max(begin, 0); at < end; at = ((at | 31) + 1) | 0) {
        const word = (y * words + (at >> 5)) | 0;
        const bit = at & 31;
        const size = (end - at) | 0;
        const wanted = size + bit >= 32 ? -1 << bit : ((1 << size) - 1) << bit;
        let open = wanted & ~(covered[word] as number);
        if (open === 0) continue;
        if (isOpaque) covered[word] = (covered[word] as number) | open;
        const x = at & ~31;
        const row = (start + y * stride + x) | 0;
        const first = (own + (mirror === 0 ? x - begin : stop - 1 - x)) | 0;
        while (open !== 0) {
          const low = 31 - Math.clz32(open & -open);
          // The lowest place after `low` that is not open.
          const gap = ~(open | ((1 << low) - 1));
          const span = ((gap === 0 ? 32 : 31 - Math.clz32(gap & -gap)) - low) | 0;
          open &= gap === 0 ? 0 : -1 << ((low + span) & 31);
          let to = (row + low) | 0;
          const after = (to + span) | 0;
          if (!isOpaque)
            this.#wait(cells, table, to, mirror === 0 ? first + low : first - low, span, mirror === 0 ? 1 : -1);
          else if (mirror === 0) {
            for (let index = (first + low) | 0; to < after; to = (to + 1) | 0, index = (index + 1) | 0) {
              pixels[to] = table[indices[index] as number] as number;
            }
          } else {
            for (let index = (first - low) | 0; to < after; to = (to + 1) | 0, index = (index - 1) | 0) {
              pixels[to] = table[indices[index] as number] as number;
            }
          }
        }
      }
    }
  }

  #wait({ indices }: Cells, table: Uint32Array, to: number, from: number, count: number, step: 1 | -1): void {
    this.#waiting.push({ indices, table, to, from, count, step });
  }

  /** Ends the frame: lays translucent pixels over what lies behind them, and makes all of it as opaque as said. */
  end(opacity: number): void {
    for (let number = this.#waiting.length - 1; number >= 0; number -= 1) {
      const { indices, table, to, from, count, step } = this.#waiting[number] as Waiting;
      for (let each = 0; each < count; each += 1) {
        const over = table[indices[from + each * step] as number] as number;
        this.#pixels[to + each] = blendOver(over, this.#pixels[to + each] as number);
      }
    }
    if (opacity === 1) return;
    for (let y = 0; y < this.#height; y += 1) {
      const row = this.#start + y * this.#stride;
      for (let at = row; at < row + this.#width; at += 1) {
        const color = this.#pixels[at] as number;
        this.#pixels[at] = ((Math.round((color >>> 24) * opacity) << 24) | (color & 0xffffff)) >>> 0;
      }
    }
  }
}

/** Translucent pixels of one run. */
interface Waiting {
  readonly indices: Uint8Array | Uint32Array;
  readonly table: Uint32Array;
  readonly to: number;
  readonly from: number;
  readonly count: number;
  readonly step: 1 | -1;
}
