import type { Field } from "./field.ts";
import type { Material } from "./material.ts";

export const width = 64;
export const height = 80;
const originX = 32;
const originY = 76;
const tilt = (12 * Math.PI) / 180;
const sin = Math.sin(tilt);
const cos = Math.cos(tilt);
const far = -48;
const near = 48;

/** A shape of one material. */
export interface Piece {
  readonly field: Field;
  readonly material: Material;
  /** Which limb it clothes; a crease between two limbs is inked. */
  readonly limb?: Limb;
}

export type Limb = "trunk" | "arm-left" | "arm-right" | "leg-left" | "leg-right" | "flap";

/** What is seen in each pixel, row by row. */
export interface Rendering {
  /** Which piece, or −1 for none. */
  readonly piece: Int8Array;
  /** 0 (ink) to 4 (light). */
  readonly tone: Uint8Array;
  /** Distance toward the viewer. */
  readonly depth: Float32Array;
  /** Height of the point seen above the ground. */
  readonly level: Float32Array;
  /** How open the surface lies, 0 (deep in a crease) to 1. */
  readonly openness: Float32Array;
}

/** The facings that are drawn, and how far the figure is turned for each: 0 looks at the viewer. */
export const yaws: Readonly<Record<string, number>> = { south: 0, west: Math.PI * 0.38, north: Math.PI };

/** Where a point of the figure is seen: pixels from the upper left corner of the frame, not rounded. */
export function project(at: { x: number; y: number; z: number }, yaw: number): { x: number; y: number; depth: number } {
  const x = Math.cos(yaw) * at.x - Math.sin(yaw) * at.z;
  const z = Math.sin(yaw) * at.x + Math.cos(yaw) * at.z;
  return { x: originX + x, y: originY - (at.y * cos - z * sin), depth: at.y * sin + z * cos };
}

/** Looks at pieces from the front and a little above: orthographic ray-marching, one ray through the middle of each pixel. */
export function render(pieces: readonly Piece[], yaw: number): Rendering {
  const count = width * height;
  const rendering: Rendering = {
    piece: new Int8Array(count).fill(-1),
    tone: new Uint8Array(count),
    depth: new Float32Array(count).fill(far),
    level: new Float32Array(count),
    openness: new Float32Array(count),
  };
  const cy = Math.cos(yaw);
  const sy = Math.sin(yaw);
  const distance = (x: number, y: number, z: number): number => {
    const bx = cy * x + sy * z;
    const bz = -sy * x + cy * z;
    let least = Number.POSITIVE_INFINITY;
    for (const { field } of pieces) least = Math.min(least, field(bx, y, bz));
    return least;
  };
  const starts = blockStarts(distance);
  for (let py = 0; py < height; py += 1) {
    for (let px = 0; px < width; px += 1) {
      const start = starts[Math.floor(py / block) * (width / block) + Math.floor(px / block)];
      if (start === undefined) continue;
      const sx = px + 0.5 - originX;
      const up = originY - (py + 0.5);
      let t = start;
      for (let step = 0; step < 96 && t > far; step += 1) {
        const d = distance(sx, up * cos + t * sin, -up * sin + t * cos);
        if (d < 0.04) {
          settle(rendering, pieces, distance, py * width + px, sx, up * cos + t * sin, -up * sin + t * cos, t, cy, sy);
          break;
        }
        t -= Math.max(d * 0.85, 0.04);
      }
    }
  }
  ink(rendering, pieces);
  return rendering;
}

const block = 4;

/**
 * Where rays begin in each block of pixels: as far in as its middle ray goes before it comes near anything; `undefined` where it
 * never does, so that nothing can be seen.
 */
function blockStarts(distance: Field): readonly (number | undefined)[] {
  const reach = block * 0.75;
  return Array.from({ length: (width / block) * (height / block) }, (_, number) => {
    const x = ((number % (width / block)) + 0.5) * block - originX;
    const up = originY - (Math.floor(number / (width / block)) + 0.5) * block;
    let safe = near;
    for (let t = near; t > far; ) {
      const d = distance(x, up * cos + t * sin, -up * sin + t * cos);
      if (d < reach) return safe;
      safe = t;
      t -= Math.max(0.5, (d - reach) * 0.85);
    }
    return undefined;
  });
}

// Light from the upper left and a little toward the viewer, in screen space.
const light = normalize(-0.62, 0.66, 0.43);

function settle(
  rendering: Rendering,
  pieces: readonly Piece[],
  distance: Field,
  at: number,
  x: number,
  y: number,
  z: number,
  t: number,
  cy: number,
  sy: number,
): void {
  const e = 0.35;
  const [nx, ny, nz] = normalize(
    distance(x + e, y, z) - distance(x - e, y, z),
    distance(x, y + e, z) - distance(x, y - e, z),
    distance(x, y, z + e) - distance(x, y, z - e),
  );
  const facing = nx * light[0] + ny * light[1] + nz * light[2];
  const open = Math.min(1, Math.max(0, distance(x + nx * 2.4, y + ny * 2.4, z + nz * 2.4) / 2.4));
  const brightness = (0.5 + 0.5 * facing) * (0.72 + 0.28 * open);
  const bx = cy * x + sy * z;
  const bz = -sy * x + cy * z;
  rendering.piece[at] = pieces.reduce(
    (best, { field }, number) => (field(bx, y, bz) < (pieces[best]?.field(bx, y, bz) ?? 0) ? number : best),
    0,
  );
  rendering.tone[at] = brightness < 0.36 ? 1 : brightness < 0.64 ? 2 : brightness < 0.9 ? 3 : 4;
  rendering.depth[at] = t;
  rendering.level[at] = y;
  rendering.openness[at] = open;
}

/** Inks the outline and the creases between limbs, and darkens what lies behind a nearer fold. */
function ink({ piece, tone, depth, openness }: Rendering, pieces: readonly Piece[]): void {
  const flat = tone.slice();
  for (let y = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1) {
      const at = y * width + x;
      const limb = pieces[piece[at] ?? -1]?.limb;
      if (piece[at] === -1) continue;
      let outline = false;
      let crease = false;
      let jump = 0;
      for (const [dx, dy] of [
        [1, 0],
        [-1, 0],
        [0, 1],
        [0, -1],
      ] as const) {
        const inside = x + dx >= 0 && x + dx < width && y + dy >= 0 && y + dy < height;
        const other = (y + dy) * width + x + dx;
        if (!inside || piece[other] === -1) {
          outline = true;
          continue;
        }
        const rise = (depth[other] ?? far) - (depth[at] ?? far);
        const beyond = pieces[piece[other] ?? -1]?.limb;
        jump = Math.max(jump, rise);
        if (
          limb !== undefined &&
          beyond !== undefined &&
          beyond !== limb &&
          rise > 0 &&
          (beyond === "flap" || (openness[at] ?? 1) < 0.8 || rise > 1)
        )
          crease = true;
      }
      if (outline || crease || jump > 3.2) tone[at] = 0;
      else if (jump > 1.7) tone[at] = Math.max(1, (flat[at] ?? 1) - 1);
    }
  }
}

function normalize(x: number, y: number, z: number): readonly [number, number, number] {
  const length = Math.hypot(x, y, z) || 1;
  return [x / length, y / length, z / length];
}
