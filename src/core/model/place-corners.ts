import { identity, type Matrix, multiply } from "./matrix.ts";
import type { Pose } from "./pose.ts";
import type { PreparedPiece } from "./prepare-model.ts";

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

/** Where light comes from: from the upper left, before the figure, wherever it faces. */
const [lightX, lightY, lightZ] = [-0.58, 0.65, 0.49].map((value) => value / Math.hypot(0.58, 0.65, 0.49)) as [
  number,
  number,
  number,
];

/** How much of its light a place loses that lies deep in a fold. */
const folds = 0.28;

/** Corners as they are seen: x and y in samples, how near, and how light, four numbers each. */
export function placeCorners(piece: PreparedPiece, pose: Pose, view: View): Float32Array {
  const { positions, normals, joints, weights, hang, openness, shading } = piece;
  const look = cameraOf(view);
  const matrices = followedMatrices(piece, pose, look);
  const still = multiply(
    look,
    multiply((hang.joint === undefined ? undefined : pose[hang.joint]) ?? identity, hang.at),
  );
  const count = positions.length / 3;
  const corners = new Float32Array(count * 4);
  const blend = joints === undefined ? Float64Array.from(still) : new Float64Array(16);
  for (let corner = 0; corner < count; corner += 1) {
    if (joints !== undefined && weights !== undefined) blendInto(blend, matrices, joints, weights, corner);
    const at = corner * 3;
    const [px, py, pz] = [positions[at] as number, positions[at + 1] as number, positions[at + 2] as number];
    const [nx, ny, nz] = [normals[at] as number, normals[at + 1] as number, normals[at + 2] as number];
    const to = corner * 4;
    corners[to] = row(blend, 0, px, py, pz) + (blend[12] as number) + view.x;
    corners[to + 1] = view.y - row(blend, 1, px, py, pz) - (blend[13] as number);
    corners[to + 2] = row(blend, 2, px, py, pz) + (blend[14] as number);
    const [lx, ly, lz] = [row(blend, 0, nx, ny, nz), row(blend, 1, nx, ny, nz), row(blend, 2, nx, ny, nz)];
    const toLight = shading.glows ? lz : lx * lightX + ly * lightY + lz * lightZ;
    const open = openness === undefined ? 1 : 1 - folds * (1 - (openness[corner] as number));
    corners[to + 3] = (0.5 + (0.5 * toLight) / (Math.sqrt(lx * lx + ly * ly + lz * lz) || 1)) * open;
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

/** For each joint it follows, what brings a corner from its rest to where it is seen. */
function followedMatrices({ binds }: PreparedPiece, pose: Pose, look: Matrix): readonly (Matrix | undefined)[] {
  const matrices: (Matrix | undefined)[] = [];
  for (const [joint, bind] of binds) matrices[joint] = multiply(look, multiply(pose[joint] ?? bind, bind));
  return matrices;
}

/** The matrices of the joints that a corner follows, each as much as it does. */
function blendInto(
  blend: Float64Array,
  matrices: readonly (Matrix | undefined)[],
  joints: Uint16Array,
  weights: Float32Array,
  corner: number,
): void {
  blend.fill(0);
  for (let each = corner * 4; each < corner * 4 + 4; each += 1) {
    const weight = weights[each] as number;
    const matrix = weight === 0 ? undefined : matrices[joints[each] as number];
    if (matrix === undefined) continue;
    for (let at = 0; at < 16; at += 1) blend[at] = (blend[at] as number) + (matrix[at] as number) * weight;
  }
}

function row(matrix: Float64Array, at: number, x: number, y: number, z: number): number {
  return (matrix[at] as number) * x + (matrix[at + 4] as number) * y + (matrix[at + 8] as number) * z;
}
