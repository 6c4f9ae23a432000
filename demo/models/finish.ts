import { type Field, union } from "../art/field.ts";
import { gradient } from "./contour.ts";
import type { Surface } from "./surface.ts";

/** Draws the corners of a simplified surface back onto its field. */
export function drawOnto(field: Field, { positions, triangles }: Surface): Surface {
  const moved = positions.slice();
  for (let at = 0; at < moved.length; at += 3)
    for (let step = 0; step < 2; step += 1) {
      const [x, y, z] = [moved[at] as number, moved[at + 1] as number, moved[at + 2] as number];
      const away = Math.min(0.4, Math.max(-0.4, field(x, y, z)));
      const [nx, ny, nz] = gradient(field, x, y, z, 0.1);
      moved[at] = x - nx * away;
      moved[at + 1] = y - ny * away;
      moved[at + 2] = z - nz * away;
    }
  return { positions: moved, triangles };
}

/** A surface whose corners have directions; a corner where several meet that differ is there once for each. */
export interface Directed extends Surface {
  readonly normals: Float32Array;
}

const sharp = Math.cos((40 * Math.PI) / 180);

/**
 * Gives each corner its direction: the field's, felt a little inside of the triangle, so that edges stay sharp.
 *
 * @param reach - how far around a place is felt: wide for cloth, narrow for what is fine. Where wide and narrow differ, narrow.
 */
export function direct(field: Field, { positions, triangles }: Surface, reach: number): Directed {
  const places: number[] = [];
  const normals: number[] = [];
  const out = new Uint32Array(triangles.length);
  const known = new Map<number, { number: number; normal: readonly [number, number, number]; sum: number[] }[]>();
  for (let first = 0; first < triangles.length; first += 3) {
    const corners = [0, 1, 2].map((each) => triangles[first + each] as number);
    const middle = [0, 1, 2].map(
      (axis) => corners.reduce((sum, corner) => sum + (positions[corner * 3 + axis] as number), 0) / 3,
    );
    for (const [each, corner] of corners.entries()) {
      const [x, y, z] = [0, 1, 2].map((axis) => {
        const at = positions[corner * 3 + axis] as number;
        return at + 0.3 * ((middle[axis] as number) - at);
      }) as [number, number, number];
      const normal = felt(field, x, y, z, reach);
      const here = known.get(corner) ?? [];
      known.set(corner, here);
      let own = here.find((other) => dot(other.normal, normal) > sharp);
      if (own === undefined) {
        own = { number: places.length / 3, normal, sum: [0, 0, 0] };
        here.push(own);
        places.push(...positions.subarray(corner * 3, corner * 3 + 3));
        normals.push(0, 0, 0);
      }
      for (let axis = 0; axis < 3; axis += 1) own.sum[axis] = (own.sum[axis] ?? 0) + (normal[axis] ?? 0);
      out[first + each] = own.number;
    }
  }
  for (const here of known.values())
    for (const { number, sum } of here) {
      const length = Math.hypot(...sum) || 1;
      for (let axis = 0; axis < 3; axis += 1) normals[number * 3 + axis] = (sum[axis] ?? 0) / length;
    }
  return { positions: Float32Array.from(places), normals: Float32Array.from(normals), triangles: out };
}

function felt(field: Field, x: number, y: number, z: number, reach: number): [number, number, number] {
  const wide = gradient(field, x, y, z, reach);
  const narrow = gradient(field, x, y, z, 0.2);
  return dot(wide, narrow) < 0.86 ? narrow : wide;
}

function dot(a: readonly number[], b: readonly number[]): number {
  return (a[0] ?? 0) * (b[0] ?? 0) + (a[1] ?? 0) * (b[1] ?? 0) + (a[2] ?? 0) * (b[2] ?? 0);
}

const steps = [
  [0.7, 0.22],
  [1.5, 0.28],
  [3, 0.28],
  [5, 0.22],
] as const;

const sky = [-0.12, 0.86, 0.5].map((value) => value / Math.hypot(0.12, 0.86, 0.5));

/** How open each corner lies, a byte each: how far it is to the next surface, straight out and toward the sky. */
export function opennessOf({ positions, normals }: Directed, around: readonly Field[]): Uint8Array {
  const field = union(...around);
  return Uint8Array.from({ length: positions.length / 3 }, (_, corner) => {
    const [x = 0, y = 0, z = 0] = positions.subarray(corner * 3, corner * 3 + 3);
    const [nx = 0, ny = 0, nz = 0] = normals.subarray(corner * 3, corner * 3 + 3);
    let open = 0;
    for (const [away, weight] of steps)
      open += weight * Math.min(1, Math.max(0, field(x + nx * away, y + ny * away, z + nz * away) / away));
    return Math.round(255 * open * (0.75 + 0.25 * skyAt(field, x + nx, y + ny, z + nz)));
  });
}

/** How much of the sky a place sees: a soft shadow (I. Quilez, "Soft shadows in raymarched SDFs"). */
function skyAt(field: Field, x: number, y: number, z: number): number {
  const [sx = 0, sy = 0, sz = 0] = sky;
  let seen = 1;
  let away = 0.5;
  for (let step = 0; step < 12 && away < 18; step += 1) {
    const near = field(x + sx * away, y + sy * away, z + sz * away);
    seen = Math.min(seen, 0.5 + (2.5 * near) / away);
    if (seen <= 0) return 0;
    away += Math.max(0.6, near);
  }
  return Math.max(0, Math.min(1, seen));
}
