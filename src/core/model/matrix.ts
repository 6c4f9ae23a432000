/** Four by four numbers, column by column, as glTF has them. */
export type Matrix = readonly number[];

export const identity: Matrix = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];

/** The matrix that does what `other` does, and then what `one` does. */
export function multiply(one: Matrix, other: Matrix): Matrix {
  const made = new Array<number>(16);
  for (let column = 0; column < 4; column += 1)
    for (let row = 0; row < 4; row += 1) {
      let sum = 0;
      for (let each = 0; each < 4; each += 1)
        sum += (one[each * 4 + row] as number) * (other[column * 4 + each] as number);
      made[column * 4 + row] = sum;
    }
  return made;
}

/** What undoes a matrix that moves, turns and scales. */
export function inverted(matrix: Matrix): Matrix {
  const [a = 0, b = 0, c = 0, , d = 0, e = 0, f = 0, , g = 0, h = 0, i = 0, , x = 0, y = 0, z = 0] = matrix;
  const [p, q, r] = [e * i - f * h, c * h - b * i, b * f - c * e];
  const size = a * p + d * q + g * r || 1;
  const rows = [p, q, r, f * g - d * i, a * i - c * g, c * d - a * f, d * h - e * g, b * g - a * h, a * e - b * d].map(
    (value) => value / size,
  );
  const [m0 = 0, m1 = 0, m2 = 0, m3 = 0, m4 = 0, m5 = 0, m6 = 0, m7 = 0, m8 = 0] = rows;
  const back = (one: number, two: number, three: number) => -(one * x + two * y + three * z);
  return [m0, m1, m2, 0, m3, m4, m5, 0, m6, m7, m8, 0, back(m0, m3, m6), back(m1, m4, m7), back(m2, m5, m8), 1];
}

/** Where something stands, how it is turned (a unit quaternion) and how large it is. */
export interface Stand {
  readonly translation: readonly number[];
  readonly rotation: readonly number[];
  readonly scale: readonly number[];
}

/** The matrix of a stand (glTF 2.0, §3.5.3). */
export function matrixOf({ translation, rotation, scale }: Stand): Matrix {
  const [x = 0, y = 0, z = 0, w = 1] = rotation;
  const [sx = 1, sy = 1, sz = 1] = scale;
  const [tx = 0, ty = 0, tz = 0] = translation;
  return [
    (1 - 2 * (y * y + z * z)) * sx,
    2 * (x * y + z * w) * sx,
    2 * (x * z - y * w) * sx,
    0,
    2 * (x * y - z * w) * sy,
    (1 - 2 * (x * x + z * z)) * sy,
    2 * (y * z + x * w) * sy,
    0,
    2 * (x * z + y * w) * sz,
    2 * (y * z - x * w) * sz,
    (1 - 2 * (x * x + y * y)) * sz,
    0,
    tx,
    ty,
    tz,
    1,
  ];
}

/** The way from one turn to another, so far along (K. Shoemake, "Animating rotation with quaternion curves", 1985). */
export function turnBetween(one: readonly number[], other: readonly number[], along: number): readonly number[] {
  let dot = one.reduce((sum, value, at) => sum + value * (other[at] as number), 0);
  const sign = dot < 0 ? -1 : 1;
  dot = Math.min(1, dot * sign);
  const angle = Math.acos(dot);
  const [from, to] =
    angle < 1e-6
      ? [1 - along, along]
      : [Math.sin((1 - along) * angle) / Math.sin(angle), Math.sin(along * angle) / Math.sin(angle)];
  return one.map((value, at) => value * from + (other[at] as number) * to * sign);
}
