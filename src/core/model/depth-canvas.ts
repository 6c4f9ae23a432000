import { createImage, type Image } from "../raster/image.ts";
import { swapRedAndBlue } from "../raster/sheet.ts";
import type { PreparedPiece } from "./prepare-model.ts";
import type { Shading } from "./shading.ts";

/** How wide lines of ink are, and where they are drawn, in samples. */
export interface Ink {
  readonly width: number;
  /** How much nearer a piece has to be than another, for a line before it. */
  readonly step: number;
}

/** How much nearer a fold has to be than its own piece behind it, in steps. */
const fold = 4;

/** How dark ink is mixed, toward this color. */
const darkest = 0x241410;

/** A canvas that knows how near each of its samples is. */
export class DepthCanvas {
  readonly #width: number;
  readonly #height: number;
  readonly #depths: Float32Array;
  /** The piece that is seen, and its tone; -1 for none. */
  readonly #pieces: Int16Array;
  readonly #tones: Uint8Array;

  constructor(width: number, height: number) {
    this.#width = width;
    this.#height = height;
    const count = width * height;
    this.#depths = new Float32Array(count).fill(Number.NEGATIVE_INFINITY);
    this.#pieces = new Int16Array(count).fill(-1);
    this.#tones = new Uint8Array(count);
  }

  /** @param corners - four numbers each, as `placeCorners` gives them. */
  draw({ triangles, isDoubleSided, isMirrored, shading }: PreparedPiece, number: number, corners: Float32Array): void {
    for (let at = 0; at < triangles.length; at += 3) {
      const [a, b, c] = [
        (triangles[at] as number) * 4,
        (triangles[at + 1] as number) * 4,
        (triangles[at + 2] as number) * 4,
      ];
      const area =
        ((corners[b] as number) - (corners[a] as number)) * ((corners[c + 1] as number) - (corners[a + 1] as number)) -
        ((corners[b + 1] as number) - (corners[a + 1] as number)) * ((corners[c] as number) - (corners[a] as number));
      // Rows go down, so what turns against the clock in its file, and is seen from before, turns with it here.
      if (area === 0 || (!isDoubleSided && area > 0 !== isMirrored)) continue;
      this.#fill(corners, a, b, c, area, number, shading);
    }
  }

  /** Fills a triangle, sample by sample: those whose middle lies in it, as its edges say (J. Pineda, 1988). */
  #fill(corners: Float32Array, a: number, b: number, c: number, area: number, piece: number, shading: Shading): void {
    const [ax, ay, az, al] = [
      corners[a] as number,
      corners[a + 1] as number,
      corners[a + 2] as number,
      corners[a + 3] as number,
    ];
    const [bx, by, bz, bl] = [
      corners[b] as number,
      corners[b + 1] as number,
      corners[b + 2] as number,
      corners[b + 3] as number,
    ];
    const [cx, cy, cz, cl] = [
      corners[c] as number,
      corners[c + 1] as number,
      corners[c + 2] as number,
      corners[c + 3] as number,
    ];
    const left = Math.max(0, Math.floor(Math.min(ax, bx, cx) - 0.5));
    const right = Math.min(this.#width - 1, Math.ceil(Math.max(ax, bx, cx) - 0.5));
    const top = Math.max(0, Math.floor(Math.min(ay, by, cy) - 0.5));
    const bottom = Math.min(this.#height - 1, Math.ceil(Math.max(ay, by, cy) - 0.5));
    // How much of each corner a sample has changes by the same from one column to the next.
    const [uStep, vStep] = [(by - cy) / area, (cy - ay) / area];
    for (let y = top; y <= bottom; y += 1) {
      const [px, py] = [left + 0.5, y + 0.5];
      let u = ((bx - px) * (cy - py) - (by - py) * (cx - px)) / area;
      let v = ((cx - px) * (ay - py) - (cy - py) * (ax - px)) / area;
      for (let at = y * this.#width + left; at <= y * this.#width + right; at += 1, u += uStep, v += vStep) {
        const w = 1 - u - v;
        if (u < 0 || v < 0 || w < 0) continue;
        const depth = u * az + v * bz + w * cz;
        if (depth <= (this.#depths[at] as number)) continue;
        this.#depths[at] = depth;
        this.#pieces[at] = piece;
        this.#tones[at] = toneOf(u * al + v * bl + w * cl, shading.cuts);
      }
    }
  }

  picture(pieces: readonly PreparedPiece[], ink: Ink): Image {
    const image = createImage(this.#width, this.#height);
    const pixels = new Uint32Array(image.data.buffer);
    const colors = pieces.map(({ shading }) => shading.tones.map(packed));
    for (let at = 0; at < pixels.length; at += 1) {
      const piece = this.#pieces[at] as number;
      if (piece >= 0) pixels[at] = colors[piece]?.[this.#tones[at] as number] ?? 0;
    }
    if (ink.width > 0) this.#ink(pixels, pieces, ink);
    return image;
  }

  /** Draws lines where the figure ends, and thinner ones where a piece stands before another, or before itself. */
  #ink(pixels: Uint32Array, pieces: readonly PreparedPiece[], { width, step }: Ink): void {
    const inks = pieces.map(({ shading }) => packed(mixed(shading.ink, darkest, 0.35)));
    const [outline, inner] = [discOf(width - 1), discOf(Math.max(0, Math.round(width / 2) - 1))];
    for (let y = 0; y < this.#height; y += 1)
      for (let x = 0; x < this.#width; x += 1) {
        const piece = this.#pieces[y * this.#width + x] as number;
        if (piece < 0) continue;
        const edge = this.#edgeAt(x, y, step);
        if (edge === "outline") this.#stamp(pixels, x, y, outline, inks);
        else if (edge === "line") this.#stamp(pixels, x, y, inner, inks, piece);
      }
  }

  #edgeAt(x: number, y: number, step: number): "outline" | "line" | undefined {
    const at = y * this.#width + x;
    const [piece, depth] = [this.#pieces[at], this.#depths[at] as number];
    let isLine = false;
    for (let side = 0; side < 4; side += 1) {
      const isSideways = side < 2;
      const by = side % 2 === 0 ? 1 : -1;
      const [column, row] = isSideways ? [x + by, y] : [x, y + by];
      // What the frame cuts off has no end there.
      if (column < 0 || row < 0 || column >= this.#width || row >= this.#height) continue;
      const beside = isSideways ? at + by : at + by * this.#width;
      const other = this.#pieces[beside] as number;
      if (other < 0) return "outline";
      const rise = depth - (this.#depths[beside] as number);
      isLine ||= rise > (other === piece ? step * fold : step);
    }
    return isLine ? "line" : undefined;
  }

  /** Inks what is there of a disc, each piece in its own ink. @param only - the one piece that is inked. */
  #stamp(
    pixels: Uint32Array,
    x: number,
    y: number,
    disc: readonly (readonly [number, number])[],
    inks: readonly number[],
    only?: number,
  ): void {
    for (const [dx, dy] of disc) {
      const [column, row] = [x + dx, y + dy];
      if (column < 0 || row < 0 || column >= this.#width || row >= this.#height) continue;
      const at = row * this.#width + column;
      const piece = this.#pieces[at] as number;
      if (piece >= 0 && (only === undefined || only === piece)) pixels[at] = inks[piece] as number;
    }
  }
}

/** Steps to all samples that lie so near, in samples. */
function discOf(radius: number): readonly (readonly [number, number])[] {
  const size = 2 * radius + 1;
  return Array.from(
    { length: size * size },
    (_, at) => [(at % size) - radius, Math.floor(at / size) - radius] as const,
  ).filter(([x, y]) => x * x + y * y <= radius * radius);
}

/** Which tone a place has that is so light. */
function toneOf(lit: number, cuts: readonly number[]): number {
  let tone = 0;
  while (tone < cuts.length && lit >= (cuts[tone] as number)) tone += 1;
  return tone;
}

function packed(color: number): number {
  return (0xff000000 | swapRedAndBlue(color)) >>> 0;
}

function mixed(one: number, other: number, share: number): number {
  return [16, 8, 0].reduce((sum, shift) => {
    const [from, to] = [(one >> shift) & 255, (other >> shift) & 255];
    return sum + (Math.round(from + (to - from) * share) << shift);
  }, 0);
}
