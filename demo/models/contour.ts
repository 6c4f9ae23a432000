import type { Field } from "../art/field.ts";
import type { Surface } from "./surface.ts";

/** Where figures stand, in pixels of the pictures: wide enough for an oar held upright. */
const low = [-34, -2, -22] as const;
const high = [34, 88, 24] as const;
const block = 4;

/**
 * Meshes the surface of a field by dual contouring (T. Ju and others, "Dual contouring of Hermite data", 2002): a corner in each cell that the
 * surface crosses, drawn to the planes that touch it there, so that edges stay sharp.
 *
 * @param cell - how wide cells are; what is thinner than two of them tears.
 */
export function contour(field: Field, cell: number): Surface {
  const counts = low.map((from, axis) => {
    const cells = Math.ceil(((high[axis] ?? 0) - from) / cell / block) * block;
    return cells;
  }) as [number, number, number];
  const grid = new Grid(field, cell, counts);
  grid.findCorners();
  return { positions: Float32Array.from(grid.positions), triangles: Uint32Array.from(grid.stitch()) };
}

class Grid {
  readonly positions: number[] = [];
  readonly #field: Field;
  readonly #cell: number;
  readonly #counts: readonly [number, number, number];
  readonly #distances: Float32Array;
  /** Which corner lies in a cell, and which cells have one. */
  readonly #cornerIn = new Map<number, number>();

  constructor(field: Field, cell: number, counts: readonly [number, number, number]) {
    this.#field = field;
    this.#cell = cell;
    this.#counts = counts;
    this.#distances = new Float32Array((counts[0] + 1) * (counts[1] + 1) * (counts[2] + 1)).fill(Number.NaN);
  }

  /** Looks at those blocks of cells that the surface may cross. */
  findCorners(): void {
    const [nx, ny, nz] = this.#counts;
    const half = (block * this.#cell) / 2;
    // Ellipsoids and bent fields are no true distances.
    const reach = 1.6 * half * Math.sqrt(3) + 0.6;
    for (let z = 0; z < nz; z += block)
      for (let y = 0; y < ny; y += block)
        for (let x = 0; x < nx; x += block) {
          const [cx, cy, cz] = this.#place(x + block / 2, y + block / 2, z + block / 2);
          if (Math.abs(this.#field(cx, cy, cz)) > reach) continue;
          for (let each = 0; each < block ** 3; each += 1)
            this.#look(x + (each % block), y + (Math.floor(each / block) % block), z + Math.floor(each / block ** 2));
        }
  }

  #place(x: number, y: number, z: number): [number, number, number] {
    return [low[0] + x * this.#cell, low[1] + y * this.#cell, low[2] + z * this.#cell];
  }

  #at(x: number, y: number, z: number): number {
    const [nx, ny] = this.#counts;
    const at = (z * (ny + 1) + y) * (nx + 1) + x;
    const known = this.#distances[at] as number;
    if (!Number.isNaN(known)) return known;
    const found = this.#field(...this.#place(x, y, z));
    this.#distances[at] = found;
    return found;
  }

  #look(x: number, y: number, z: number): void {
    const touching: number[] = [];
    for (const [a, b] of cellEdges) {
      const [from, to] = [this.#at(x + a[0], y + a[1], z + a[2]), this.#at(x + b[0], y + b[1], z + b[2])];
      if (from < 0 === to < 0) continue;
      touching.push(
        ...this.#crossing(
          this.#place(x + a[0], y + a[1], z + a[2]),
          this.#place(x + b[0], y + b[1], z + b[2]),
          from,
          to,
        ),
      );
    }
    if (touching.length === 0) return;
    this.#cornerIn.set(this.#number(x, y, z), this.positions.length / 3);
    this.positions.push(...this.#settle(touching, this.#place(x, y, z)));
  }

  #number(x: number, y: number, z: number): number {
    const [nx, ny] = this.#counts;
    return (z * ny + y) * nx + x;
  }

  /** Where an edge crosses the surface, and the surface's direction there. */
  #crossing(a: readonly number[], b: readonly number[], from: number, to: number): readonly number[] {
    let [low, high, atLow, atHigh] = [0, 1, from, to];
    let part = from / (from - to);
    for (let step = 0; step < 3; step += 1) {
      part = low + (high - low) * (atLow / (atLow - atHigh));
      const [x = 0, y = 0, z = 0] = a.map((value, axis) => value + ((b[axis] ?? 0) - value) * part);
      const here = this.#field(x, y, z);
      if (here < 0 === atLow < 0) [low, atLow] = [part, here];
      else [high, atHigh] = [part, here];
    }
    const [x = 0, y = 0, z = 0] = a.map((value, axis) => value + ((b[axis] ?? 0) - value) * part);
    return [x, y, z, ...gradient(this.#field, x, y, z, 0.08)];
  }

  /** Draws a corner to the planes, without leaving its cell. */
  #settle(touching: readonly number[], cell: readonly number[]): readonly number[] {
    const count = touching.length / 6;
    const at = [0, 1, 2].map((axis) => {
      let sum = 0;
      for (let each = 0; each < count; each += 1) sum += touching[each * 6 + axis] as number;
      return sum / count;
    });
    for (let step = 0; step < 16; step += 1) {
      const move = [0, 0, 0];
      for (let each = 0; each < count; each += 1) {
        let away = 0;
        for (let axis = 0; axis < 3; axis += 1)
          away +=
            ((touching[each * 6 + axis] as number) - (at[axis] as number)) * (touching[each * 6 + 3 + axis] as number);
        for (let axis = 0; axis < 3; axis += 1)
          move[axis] = (move[axis] as number) + away * (touching[each * 6 + 3 + axis] as number);
      }
      for (let axis = 0; axis < 3; axis += 1) {
        const from = cell[axis] as number;
        const wanted = (at[axis] as number) + ((move[axis] as number) / count) * 1.4;
        at[axis] = Math.min(from + this.#cell, Math.max(from, wanted));
      }
    }
    return at;
  }

  /** Two triangles around each edge that crosses the surface, split where they bend least. */
  *stitch(): Iterable<number> {
    const [nx, ny] = this.#counts;
    for (const cell of this.#cornerIn.keys()) {
      const [x, y, z] = [cell % nx, Math.floor(cell / nx) % ny, Math.floor(cell / (nx * ny))];
      for (let axis = 0; axis < 3; axis += 1) {
        const ends = [x, y, z].map((value, each) => value + (each === axis ? 1 : 0)) as [number, number, number];
        const [from, to] = [this.#at(x, y, z), this.#at(...ends)];
        if (from < 0 === to < 0) continue;
        const around = aroundAxis[axis]?.map(([dx, dy, dz]) =>
          this.#cornerIn.get(this.#number(x - dx, y - dy, z - dz)),
        );
        if (around === undefined || around.includes(undefined)) continue;
        const [a = 0, b = 0, c = 0, d = 0] = from < 0 ? around : around.toReversed();
        const isShort = this.#apart(a, c) <= this.#apart(b, d);
        yield* isShort ? [a, b, c, a, c, d] : [b, c, d, b, d, a];
      }
    }
  }

  #apart(one: number, other: number): number {
    return Math.hypot(
      ...[0, 1, 2].map((axis) => (this.positions[one * 3 + axis] ?? 0) - (this.positions[other * 3 + axis] ?? 0)),
    );
  }
}

/** The twelve edges of a cell, by the corners they join. */
const cellEdges = [0, 1, 2].flatMap((axis) =>
  [0, 1, 2, 3].map((each) => {
    const corner = (along: number) => {
      const sides = [each & 1, each >> 1];
      return [0, 1, 2].map((other) => (other === axis ? along : sides.shift())) as [number, number, number];
    };
    return [corner(0), corner(1)] as const;
  }),
);

/** The cells around an edge along each axis, turning with it. */
const aroundAxis: readonly (readonly (readonly [number, number, number])[])[] = [
  [
    [0, 1, 1],
    [0, 0, 1],
    [0, 0, 0],
    [0, 1, 0],
  ],
  [
    [1, 0, 1],
    [1, 0, 0],
    [0, 0, 0],
    [0, 0, 1],
  ],
  [
    [1, 1, 0],
    [0, 1, 0],
    [0, 0, 0],
    [1, 0, 0],
  ],
];

/** Where a field grows fastest, of length 1. @param reach - how far from the point it is felt. */
export function gradient(field: Field, x: number, y: number, z: number, reach: number): [number, number, number] {
  const dx = field(x + reach, y, z) - field(x - reach, y, z);
  const dy = field(x, y + reach, z) - field(x, y - reach, z);
  const dz = field(x, y, z + reach) - field(x, y, z - reach);
  const length = Math.hypot(dx, dy, dz) || 1;
  return [dx / length, dy / length, dz / length];
}
