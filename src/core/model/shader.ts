import { swapRedAndBlue } from "../raster/sheet.ts";
import { cornerSize } from "./place-corners.ts";
import type { PieceTexture, PreparedPiece } from "./prepared-model.ts";
import { folds, light } from "./shading.ts";
import { texelAt } from "./surface.ts";

const lightX = light[0];
const lightY = light[1];
const lightZ = light[2];

/** Twice the area between an edge and a place; more than 0 on the inner side. On the grid of corners it is exact. */
export function across(ax: number, ay: number, bx: number, by: number, x: number, y: number): number {
  return (bx - ax) * (y - ay) - (by - ay) * (x - ax);
}

/** Which color a piece has where it is seen: the tone that light gives it there, and what its texture says. */
export class Shader {
  readonly #triangles: Uint32Array;
  readonly #corners: Float32Array;
  readonly #cuts: readonly number[];
  readonly #glows: boolean;
  /** The tones as pixels have them. */
  readonly #tones: Uint32Array;
  readonly #texture: PieceTexture | undefined;
  readonly #tint: Float32Array | undefined;

  constructor({ triangles, shading, texture, tint }: PreparedPiece, corners: Float32Array) {
    this.#triangles = triangles;
    this.#corners = corners;
    this.#cuts = shading.cuts;
    this.#glows = shading.glows;
    this.#tones = Uint32Array.from(shading.tones, packed);
    this.#texture = texture;
    this.#tint = tint;
  }

  /** Paints a pixel with the color of a place. @param triangle - the place of its first corner. */
  paint(pixels: Uint32Array, at: number, triangle: number, x: number, y: number): void {
    const corners = this.#corners;
    const one = this.#triangles[triangle] as number;
    const two = this.#triangles[triangle + 1] as number;
    const three = this.#triangles[triangle + 2] as number;
    const a = one * cornerSize;
    const b = two * cornerSize;
    const c = three * cornerSize;
    const ax = corners[a] as number;
    const ay = corners[a + 1] as number;
    const bx = corners[b] as number;
    const by = corners[b + 1] as number;
    const cx = corners[c] as number;
    const cy = corners[c + 1] as number;
    const area = across(ax, ay, bx, by, cx, cy);
    const u = across(bx, by, cx, cy, x, y) / area;
    const v = across(cx, cy, ax, ay, x, y) / area;
    const tone = this.#toneAt(a, b, c, u, v, 1 - u - v);
    // From list to list: a number that is handed on may be so large that it needs memory.
    pixels[at] = this.#tones[tone] as number;
    if (this.#texture === undefined && this.#tint === undefined) return;
    pixels[at] = this.#painted(this.#tinted(pixels[at] as number, one, two, three, u, v), one, two, three, u, v);
  }

  #painted(color: number, one: number, two: number, three: number, u: number, v: number): number {
    if (this.#texture === undefined) return color;
    const { data } = this.#texture.image;
    const from = texelAt(this.#texture, one, two, three, u, v);
    return multiplied(color, data[from] as number, data[from + 1] as number, data[from + 2] as number);
  }

  #tinted(color: number, one: number, two: number, three: number, u: number, v: number): number {
    const tint = this.#tint;
    if (tint === undefined) return color;
    const w = 1 - u - v;
    const share = (channel: number) =>
      255 *
      (u * (tint[one * 3 + channel] as number) +
        v * (tint[two * 3 + channel] as number) +
        w * (tint[three * 3 + channel] as number));
    return multiplied(color, share(0), share(1), share(2));
  }

  /** Which tone a place has that has so much of each corner: how its light falls, and how open it lies there. */
  #toneAt(a: number, b: number, c: number, u: number, v: number, w: number): number {
    const cuts = this.#cuts;
    if (cuts.length === 0) return 0;
    const corners = this.#corners;
    const nx = u * (corners[a + 3] as number) + v * (corners[b + 3] as number) + w * (corners[c + 3] as number);
    const ny = u * (corners[a + 4] as number) + v * (corners[b + 4] as number) + w * (corners[c + 4] as number);
    const nz = u * (corners[a + 5] as number) + v * (corners[b + 5] as number) + w * (corners[c + 5] as number);
    const open = u * (corners[a + 6] as number) + v * (corners[b + 6] as number) + w * (corners[c + 6] as number);
    const toLight = this.#glows ? nz : nx * lightX + ny * lightY + nz * lightZ;
    const lit = (0.5 + (0.5 * toLight) / (Math.sqrt(nx * nx + ny * ny + nz * nz) || 1)) * (1 - folds * (1 - open));
    let tone = 0;
    while (tone < cuts.length && lit >= (cuts[tone] as number)) tone += 1;
    return tone;
  }
}

/** A color as pixels have it, of which so much of each light is left, 255 for all of it. */
function multiplied(color: number, red: number, green: number, blue: number): number {
  const left = (shift: number, share: number) => Math.round((((color >>> shift) & 255) * share) / 255) << shift;
  return (0xff000000 | left(0, red) | left(8, green) | left(16, blue)) >>> 0;
}

/** A color `0xRRGGBB` as pixels have it. */
export function packed(color: number): number {
  return (0xff000000 | swapRedAndBlue(color)) >>> 0;
}
