import { identity, type Matrix, multiply } from "./matrix.ts";
import type { Pose } from "./pose.ts";
import type { PreparedPiece } from "./prepared-model.ts";

/** How a figure is looked at. */
export interface View {
  /** Radians by which it is turned around, to face where it does. */
  readonly turn: number;
  /** Radians by which one looks down on it. */
  readonly tilt: number;
  /** Samples for a unit of the model. */
  readonly size: number;
  /** Where it stands, in samples. */
  readonly x: number;
  readonly y: number;
}

/** How many numbers a corner has, as it is seen: x and y in samples, how near; its direction; how open it lies. */
export const cornerSize = 7;

/** Corners lie on a grid so fine in each sample, as graphics cards have it (4 bits at the least), so that edges are exact. */
const grid = 16;

/** Corners as they are seen. */
export function placeCorners(piece: PreparedPiece, pose: Pose, view: View): Float32Array {
  const { positions, normals, joints, weights, hang, openness } = piece;
  const look = cameraOf(view);
  const matrices = followedMatrices(piece, pose, look);
  const still = multiply(
    look,
    multiply((hang.joint === undefined ? undefined : pose[hang.joint]) ?? identity, hang.at),
  );
  const count = positions.length / 3;
  const corners = new Float32Array(count * cornerSize);
  const blend = Float64Array.from(still);
  for (let corner = 0; corner < count; corner += 1) {
    if (joints !== undefined && weights !== undefined) blendInto(blend, matrices, joints, weights, corner);
    const at = corner * 3;
    const px = positions[at] as number;
    const py = positions[at + 1] as number;
    const pz = positions[at + 2] as number;
    const nx = normals[at] as number;
    const ny = normals[at + 1] as number;
    const nz = normals[at + 2] as number;
    const x = row(blend, 0, px, py, pz) + (blend[12] as number);
    const y = row(blend, 1, px, py, pz) + (blend[13] as number);
    const dx = row(blend, 0, nx, ny, nz);
    const dy = row(blend, 1, nx, ny, nz);
    const dz = row(blend, 2, nx, ny, nz);
    const length = Math.sqrt(dx * dx + dy * dy + dz * dz) || 1;
    const to = corner * cornerSize;
    corners[to] = Math.round((view.x + x) * grid) / grid;
    corners[to + 1] = Math.round((view.y - y) * grid) / grid;
    corners[to + 2] = row(blend, 2, px, py, pz) + (blend[14] as number);
    corners[to + 3] = dx / length;
    corners[to + 4] = dy / length;
    corners[to + 5] = dz / length;
    corners[to + 6] = openness === undefined ? 1 : (openness[corner] as number);
  }
  return corners;
}

/** Where a place that moves with a joint is seen: x and y in samples. */
export function seenAt(joint: Matrix, offset: readonly number[], view: View): readonly [number, number] {
  const [x = 0, y = 0, z = 0] = offset;
  const matrix = Float64Array.from(multiply(cameraOf(view), joint));
  return [
    view.x + row(matrix, 0, x, y, z) + (matrix[12] as number),
    view.y - row(matrix, 1, x, y, z) - (matrix[13] as number),
  ];
}

/** Turns the figure, and looks down on it, so many samples large. */
function cameraOf({ turn, tilt, size }: View): Matrix {
  const [sin, cos, down, level] = [Math.sin(turn), Math.cos(turn), Math.sin(tilt), Math.cos(tilt)];
  return [cos, sin * down, -sin * level, 0, 0, level, down, 0, sin, -cos * down, cos * level, 0, 0, 0, 0, 1].map(
    (value, at) => (at < 12 ? value * size : value),
  );
}

/** For each joint it follows, what brings a corner from its rest to where it is seen: sixteen numbers a joint, by its number. */
function followedMatrices({ binds }: PreparedPiece, pose: Pose, look: Matrix): Float64Array {
  const matrices = new Float64Array(binds.size === 0 ? 0 : 16 * (1 + Math.max(...binds.keys())));
  for (const [joint, bind] of binds) matrices.set(multiply(look, multiply(pose[joint] ?? bind, bind)), joint * 16);
  return matrices;
}

/** The matrices of the joints that a corner follows, each as much as it does. */
function blendInto(
  blend: Float64Array,
  matrices: Float64Array,
  joints: Uint16Array,
  weights: Float32Array,
  corner: number,
): void {
  const first = corner * 4;
  const weight = weights[first] as number;
  const from = (joints[first] as number) * 16;
  for (let at = 0; at < 15; at += 1) blend[at] = (matrices[from + at] as number) * weight;
  for (let each = first + 1; each < first + 4; each += 1) {
    const more = weights[each] as number;
    if (more === 0) continue;
    const other = (joints[each] as number) * 16;
    for (let at = 0; at < 15; at += 1) blend[at] = (blend[at] as number) + (matrices[other + at] as number) * more;
  }
}

function row(matrix: Float64Array, at: number, x: number, y: number, z: number): number {
  return (matrix[at] as number) * x + (matrix[at + 4] as number) * y + (matrix[at + 8] as number) * z;
}
