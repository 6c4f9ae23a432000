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
