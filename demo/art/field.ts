/**
 * Signed-distance fields: the distance from a point to a shape, negative inside.
 *
 * Primitives and smooth union after I. Quilez, "Distance functions" (2008). Units are pixels of the finished picture.
 */

export type Field = (x: number, y: number, z: number) => number;

export interface Vector {
  readonly x: number;
  readonly y: number;
  readonly z: number;
}

export const vector = (x: number, y: number, z: number): Vector => ({ x, y, z });

export const shift = (at: Vector, x: number, y: number, z: number): Vector => ({
  x: at.x + x,
  y: at.y + y,
  z: at.z + z,
});

/** The point part of the way from one to another; 0 is the first, 1 the second. */
export const between = (a: Vector, b: Vector, part: number): Vector =>
  vector(a.x + (b.x - a.x) * part, a.y + (b.y - a.y) * part, a.z + (b.z - a.z) * part);

export function sphere(at: Vector, radius: number): Field {
  return (x, y, z) => Math.hypot(x - at.x, y - at.y, z - at.z) - radius;
}

export function ellipsoid(at: Vector, rx: number, ry: number, rz: number): Field {
  return (x, y, z) => {
    const dx = (x - at.x) / rx;
    const dy = (y - at.y) / ry;
    const dz = (z - at.z) / rz;
    const outer = Math.sqrt(dx * dx + dy * dy + dz * dz);
    const inner = Math.sqrt((dx * dx) / (rx * rx) + (dy * dy) / (ry * ry) + (dz * dz) / (rz * rz));
    return inner < 1e-9 ? -Math.min(rx, ry, rz) : (outer * (outer - 1)) / inner;
  };
}

/** A limb: a ball at each end and the straight skin between them. */
export function roundCone(a: Vector, b: Vector, ra: number, rb: number): Field {
  const bax = b.x - a.x;
  const bay = b.y - a.y;
  const baz = b.z - a.z;
  const length2 = bax * bax + bay * bay + baz * baz;
  if (length2 < 1e-9) return sphere(a, Math.max(ra, rb));
  const rr = ra - rb;
  const a2 = length2 - rr * rr;
  const il2 = 1 / length2;
  return (px, py, pz) => {
    const pax = px - a.x;
    const pay = py - a.y;
    const paz = pz - a.z;
    const y = pax * bax + pay * bay + paz * baz;
    const z = y - length2;
    const qx = pax * length2 - bax * y;
    const qy = pay * length2 - bay * y;
    const qz = paz * length2 - baz * y;
    const x2 = qx * qx + qy * qy + qz * qz;
    const y2 = y * y * length2;
    const z2 = z * z * length2;
    const k = Math.sign(rr) * rr * rr * x2;
    if (Math.sign(z) * a2 * z2 > k) return Math.sqrt(x2 + z2) * il2 - rb;
    if (Math.sign(y) * a2 * y2 < k) return Math.sqrt(x2 + y2) * il2 - ra;
    return (Math.sqrt(x2 * a2 * il2) + y * rr) * il2 - ra;
  };
}

/** A box of half sizes hx, hy, hz with rounded edges. */
export function box(at: Vector, hx: number, hy: number, hz: number, round = 0.5): Field {
  return (x, y, z) => {
    const dx = Math.abs(x - at.x) - hx + round;
    const dy = Math.abs(y - at.y) - hy + round;
    const dz = Math.abs(z - at.z) - hz + round;
    const outside = Math.hypot(Math.max(dx, 0), Math.max(dy, 0), Math.max(dz, 0));
    return outside + Math.min(Math.max(dx, dy, dz), 0) - round;
  };
}

/** Everything above a height. */
export const above =
  (height: number): Field =>
  (_x, y) =>
    height - y;

/** Everything below a height. */
export const below =
  (height: number): Field =>
  (_x, y) =>
    y - height;

export function union(...fields: readonly Field[]): Field {
  return (x, y, z) => {
    let least = Number.POSITIVE_INFINITY;
    for (const field of fields) least = Math.min(least, field(x, y, z));
    return least;
  };
}

/** Union with a rounded seam `k` pixels wide. */
export function smooth(k: number, ...fields: readonly Field[]): Field {
  return (x, y, z) => {
    let sum = Number.POSITIVE_INFINITY;
    for (const field of fields) {
      const distance = field(x, y, z);
      if (sum === Number.POSITIVE_INFINITY) {
        sum = distance;
        continue;
      }
      const h = Math.max(k - Math.abs(sum - distance), 0) / k;
      sum = Math.min(sum, distance) - h * h * k * 0.25;
    }
    return sum;
  };
}

/** What lies in all of the fields. */
export function both(...fields: readonly Field[]): Field {
  return (x, y, z) => {
    let most = Number.NEGATIVE_INFINITY;
    for (const field of fields) most = Math.max(most, field(x, y, z));
    return most;
  };
}

/** The first field without the others. */
export function cut(field: Field, ...holes: readonly Field[]): Field {
  return (x, y, z) => {
    let most = field(x, y, z);
    for (const hole of holes) most = Math.max(most, -hole(x, y, z));
    return most;
  };
}

export function inflate(field: Field, by: number): Field {
  return (x, y, z) => field(x, y, z) - by;
}

/** Bends the field down by `by` pixels, ten pixels behind the line z = `from`. */
export function droop(field: Field, from: number, by: number): Field {
  return (x, y, z) => {
    const behind = Math.max(0, from - z) / 10;
    return field(x, y + by * behind * behind, z) * 0.8;
  };
}
