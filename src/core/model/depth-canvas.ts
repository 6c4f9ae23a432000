import { createImage, type Image } from "../raster/image.ts";
import { cornerSize } from "./place-corners.ts";
import type { PreparedPiece } from "./prepared-model.ts";
import { across, packed, Shader } from "./shader.ts";
import { texelAt } from "./surface.ts";

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

/** A piece that was drawn, and where its corners were seen. */
interface Drawn {
  readonly piece: PreparedPiece;
  readonly corners: Float32Array;
}

/** A canvas that knows how near each of its samples is. */
export class DepthCanvas {
  readonly #width: number;
  readonly #height: number;
  readonly #depths: Float32Array;
  /** The piece that is seen; -1 for none. */
  readonly #pieces: Int16Array;
  /** The triangle of the piece that is seen, by the place of its first corner. */
  readonly #triangles: Int32Array;
  readonly #drawn: Drawn[] = [];

  constructor(width: number, height: number) {
    this.#width = width;
    this.#height = height;
    const count = width * height;
    this.#depths = new Float32Array(count);
    this.#pieces = new Int16Array(count);
    this.#triangles = new Int32Array(count);
    this.clear();
  }

  /** Takes away what was drawn. */
  clear(): void {
    this.#depths.fill(Number.NEGATIVE_INFINITY);
    this.#pieces.fill(-1);
    this.#drawn.length = 0;
  }

  /** Draws a piece, as it is numbered in the picture. @param corners - as `placeCorners` gives them. */
  draw(piece: PreparedPiece, corners: Float32Array): void {
    const { triangles, isDoubleSided, isMirrored } = piece;
    const filled: Filled = { corners, number: this.#drawn.push({ piece, corners }) - 1, isHole: holesOf(piece) };
    for (let at = 0; at < triangles.length; at += 3) {
      const a = (triangles[at] as number) * cornerSize;
      const b = (triangles[at + 1] as number) * cornerSize;
      const c = (triangles[at + 2] as number) * cornerSize;
      const area =
        ((corners[b] as number) - (corners[a] as number)) * ((corners[c + 1] as number) - (corners[a + 1] as number)) -
        ((corners[b + 1] as number) - (corners[a + 1] as number)) * ((corners[c] as number) - (corners[a] as number));
      // Rows go down, so what turns against the clock in its file, and is seen from before, turns with it here.
      if (area === 0 || (!isDoubleSided && area > 0 !== isMirrored)) continue;
      if (area > 0) this.#fill(filled, at, a, b, c, area);
      else this.#fill(filled, at, a, c, b, -area);
    }
  }

  /**
   * Fills a triangle that turns with the clock, sample by sample: those whose middle lies in it, as its edges say (J. Pineda, 1988). Middles on
   * an edge belong to it where the edge is at the bottom or to the left, as WebGL has them, so that of two triangles side by side just one has them.
   */
  #fill(filled: Filled, triangle: number, a: number, b: number, c: number, area: number): void {
    const { corners, number, isHole } = filled;
    const ax = corners[a] as number;
    const ay = corners[a + 1] as number;
    const bx = corners[b] as number;
    const by = corners[b + 1] as number;
    const cx = corners[c] as number;
    const cy = corners[c + 1] as number;
    const left = Math.max(0, Math.ceil(Math.min(ax, bx, cx) - 0.5));
    const right = Math.min(this.#width - 1, Math.floor(Math.max(ax, bx, cx) - 0.5));
    const top = Math.max(0, Math.ceil(Math.min(ay, by, cy) - 0.5));
    const bottom = Math.min(this.#height - 1, Math.floor(Math.max(ay, by, cy) - 0.5));
    if (left > right || top > bottom) return;
    const depths = this.#depths;
    const pieces = this.#pieces;
    const triangles = this.#triangles;
    const uStep = by - cy;
    const vStep = cy - ay;
    const wStep = ay - by;
    const ofA = leastOn(bx, by, cx, cy);
    const ofB = leastOn(cx, cy, ax, ay);
    const ofC = leastOn(ax, ay, bx, by);
    // Twice the areas across from each corner: their shares of the whole are what a sample has of each.
    let uRow = across(bx, by, cx, cy, left + 0.5, top + 0.5);
    let vRow = across(cx, cy, ax, ay, left + 0.5, top + 0.5);
    let wRow = across(ax, ay, bx, by, left + 0.5, top + 0.5);
    const az = (corners[a + 2] as number) / area;
    const bz = (corners[b + 2] as number) / area;
    const cz = (corners[c + 2] as number) / area;
    for (let row = top * this.#width; row <= bottom * this.#width; row += this.#width) {
      let u = uRow;
      let v = vRow;
      let w = wRow;
      let isWithin = false;
      for (let at = row + left; at <= row + right; at += 1) {
        if (u >= ofA && v >= ofB && w >= ofC) {
          isWithin = true;
          const depth = u * az + v * bz + w * cz;
          if (depth > (depths[at] as number) && !isHole?.(a, b, c, u / area, v / area)) {
            depths[at] = depth;
            pieces[at] = number;
            triangles[at] = triangle;
          }
          // What a row has of a triangle is in one piece.
        } else if (isWithin) break;
        u += uStep;
        v += vStep;
        w += wStep;
      }
      uRow += cx - bx;
      vRow += ax - cx;
      wRow += bx - ax;
    }
  }

  /** How many samples show something. */
  get count(): number {
    let count = 0;
    for (let at = 0; at < this.#pieces.length; at += 1) if ((this.#pieces[at] as number) >= 0) count += 1;
    return count;
  }

  /**
   * Groups of samples that lie side by side and have nothing around them but what is seen of another canvas, drawn together with this one.
   *
   * @param samples - those that groups are made of. @param isThere - the pieces that are drawn here and not left out.
   */
  islandsOf(samples: ReadonlySet<number>, other: DepthCanvas, isThere: (piece: number) => boolean): readonly number[] {
    const isSeen = (at: number) => {
      const piece = this.#pieces[at] ?? -1;
      if (piece < 0 || !isThere(piece)) return false;
      return (other.#pieces[at] as number) < 0 || (this.#depths[at] as number) > (other.#depths[at] as number);
    };
    const around = [1, -1, this.#width, -this.#width];
    const known = new Set<number>();
    const islands: number[] = [];
    for (const first of samples) {
      if (known.has(first)) continue;
      known.add(first);
      const island = [first];
      let isAlone = true;
      for (const at of island)
        for (const by of around) {
          const next = at + by;
          if (known.has(next)) continue;
          if (samples.has(next)) {
            known.add(next);
            island.push(next);
          } else isAlone &&= !isSeen(next);
        }
      if (isAlone) islands.push(...island);
    }
    return islands;
  }

  /** Calls for each sample that is nearer than that of another canvas by so much, in samples, with the piece and the triangle seen here, and its place. */
  eachBefore(
    other: DepthCanvas,
    above: number,
    below: number,
    call: (piece: number, triangle: number, at: number) => void,
  ): void {
    for (let at = 0; at < this.#pieces.length; at += 1) {
      const piece = this.#pieces[at] as number;
      if (piece < 0 || (other.#pieces[at] as number) < 0) continue;
      const nearer = (this.#depths[at] as number) - (other.#depths[at] as number);
      if (nearer > above && nearer <= below) call(piece, this.#triangles[at] as number, at);
    }
  }

  /**
   * What is seen: each sample in the color that it has there, and lines of ink.
   *
   * @param only - the channel whose pieces are shown, in no colors but those of their ramps.
   */
  picture(ink: Ink, only?: string): Image {
    const image = createImage(this.#width, this.#height);
    const pixels = new Uint32Array(image.data.buffer);
    const shaders = this.#drawn.map(({ piece, corners }) =>
      only === undefined || piece.channel === only ? new Shader(piece, corners) : undefined,
    );
    const pieces = this.#pieces;
    const triangles = this.#triangles;
    const width = this.#width;
    for (let from = 0, y = 0.5; from < pieces.length; from += width, y += 1)
      for (let at = from; at < from + width; at += 1) {
        const piece = pieces[at] as number;
        if (piece < 0) continue;
        shaders[piece]?.paint(pixels, at, triangles[at] as number, at - from + 0.5, y);
      }
    if (ink.width > 0) this.#ink(pixels, ink, only);
    return image;
  }

  /** Draws lines where the figure ends, and thinner ones where a piece stands before another, or before itself. */
  #ink(pixels: Uint32Array, { width, step }: Ink, only: string | undefined): void {
    const inks = this.#drawn.map(({ piece: { shading, channel } }) => {
      if (only === undefined) return packed(mixed(shading.ink, darkest, 0.35));
      return channel === only ? packed(shading.ink) : 0;
    });
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

  /** Inks what is there of a disc, each piece in its own ink. @param only - the one piece whose samples are drawn. */
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

/** A piece whose triangles are filled. */
interface Filled {
  readonly corners: Float32Array;
  /** Its number among those that were drawn. */
  readonly number: number;
  readonly isHole: Holes | undefined;
}

/** Whether a triangle is not there at a place with so much of its first corner, and of its second. */
type Holes = (a: number, b: number, c: number, u: number, v: number) => boolean;

/** Where the texture of a piece is not opaque enough to be seen; `undefined` for a piece without holes. */
function holesOf({ texture, cutoff }: PreparedPiece): Holes | undefined {
  if (texture === undefined || cutoff === undefined) return undefined;
  const { data } = texture.image;
  return (a, b, c, u, v) => {
    const from = texelAt(texture, a / cornerSize, b / cornerSize, c / cornerSize, u, v);
    return (data[from + 3] as number) < cutoff * 255;
  };
}

/** The least of it that belongs to the edge's triangle: nothing at the bottom and to the left, and else less than a step of the grid. */
function leastOn(ax: number, ay: number, bx: number, by: number): number {
  const isBottomOrLeft = by < ay || (by === ay && bx < ax);
  return isBottomOrLeft ? 0 : 1 / 1024;
}

/** Steps to all samples that lie so near, in samples. */
function discOf(radius: number): readonly (readonly [number, number])[] {
  const size = 2 * radius + 1;
  return Array.from(
    { length: size * size },
    (_, at) => [(at % size) - radius, Math.floor(at / size) - radius] as const,
  ).filter(([x, y]) => x * x + y * y <= radius * radius);
}

function mixed(one: number, other: number, share: number): number {
  return [16, 8, 0].reduce((sum, shift) => {
    const [from, to] = [(one >> shift) & 255, (other >> shift) & 255];
    return sum + (Math.round(from + (to - from) * share) << shift);
  }, 0);
}
