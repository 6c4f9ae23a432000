import { type Field, union } from "../art/field.ts";
import type { Figure } from "../art/figure.ts";
import type { Material } from "../art/material.ts";
import type { Piece } from "../art/render.ts";
import { contour, gradient } from "./contour.ts";
import { direct, drawOnto, opennessOf } from "./finish.ts";
import { simplify } from "./simplify.ts";
import { type FinishedSurface, keepTriangles, type Surface } from "./surface.ts";
import { type Bone, type Follow, weightsAt } from "./weights.ts";

/** A piece as it is meshed. */
export interface MeshedPiece {
  readonly material: Material;
  readonly surface: FinishedSurface;
}

export interface Measures {
  /** How wide cells are, in pixels. */
  readonly cell: number;
  /** How much finer than usual it is kept. */
  readonly detail: number;
  /** How far around a place its direction is felt, in pixels. */
  readonly reach: number;
}

export interface MeshOptions {
  readonly figure: Figure;
  readonly bones: ReadonlyMap<string, Bone>;
  /** The joints of the skeleton, in the order that numbers stand for. */
  readonly joints: readonly string[];
  /** What else stands around it and takes its light. */
  readonly around: readonly Field[];
  readonly measures: Measures;
  /** The joints a piece follows; `undefined` for what hangs. */
  readonly follow: ((piece: Piece) => Follow) | undefined;
}

/**
 * Meshes the pieces of a part. What lies deep in another piece that follows the same joints is left out: nobody sees it. In one that moves
 * otherwise it stays, since a raised arm shows what was under it.
 */
export async function meshPieces(pieces: readonly Piece[], options: MeshOptions): Promise<readonly MeshedPiece[]> {
  const { follow } = options;
  const fields = [...pieces.map(({ field }) => field), ...options.around];
  const meshed: MeshedPiece[] = [];
  for (const piece of pieces) {
    const isAlike = (other: Piece) => follow?.(other).joints.join() === follow?.(piece).joints.join();
    const others = pieces.filter((other) => other !== piece && isAlike(other)).map(({ field }) => field);
    const surface = await meshPiece(piece, others, fields, options);
    if (surface.triangles.length > 0) meshed.push({ material: piece.material, surface });
  }
  return meshed;
}

async function meshPiece(
  piece: Piece,
  others: readonly Field[],
  around: readonly Field[],
  options: MeshOptions,
): Promise<FinishedSurface> {
  const { figure, bones, measures, follow } = options;
  const { field } = piece;
  const fine = contour(field, measures.cell);
  const follows = follow?.(piece);
  const seen = withoutHidden(fine, others);
  const rough =
    seen.triangles.length === 0
      ? seen
      : await simplify(seen, normalsOf(field, seen), followsOf(seen, follows, figure, bones), measures.detail);
  const directed = direct(field, drawOnto(field, rough), measures.reach);
  const moved = follows === undefined ? undefined : weightsOf(directed, follows, options);
  return { ...directed, openness: opennessOf(directed, around), joints: moved?.joints, weights: moved?.weights };
}

/** How deep in another piece something has to lie, to be left out. */
const deep = -0.3;

function withoutHidden(surface: Surface, others: readonly Field[]): Surface {
  if (others.length === 0) return surface;
  const cover = union(...others);
  const { positions, triangles } = surface;
  const isDeep = Array.from({ length: positions.length / 3 }, (_, corner) => {
    const [x = 0, y = 0, z = 0] = positions.subarray(corner * 3, corner * 3 + 3);
    return cover(x, y, z) < deep;
  });
  return keepTriangles(surface, (triangle) =>
    [0, 1, 2].some((each) => !isDeep[triangles[triangle * 3 + each] as number]),
  );
}

function normalsOf(field: Field, { positions }: Surface): Float32Array {
  const normals = new Float32Array(positions.length);
  for (let at = 0; at < positions.length; at += 3)
    normals.set(
      gradient(field, positions[at] as number, positions[at + 1] as number, positions[at + 2] as number, 0.3),
      at,
    );
  return normals;
}

/** How much each corner follows its joints, folded into six numbers, so that corners that bend otherwise are kept apart. */
function followsOf(
  { positions }: Surface,
  follow: Follow | undefined,
  figure: Figure,
  bones: ReadonlyMap<string, Bone>,
): Float32Array {
  const count = positions.length / 3;
  const folded = new Float32Array(count * 6);
  if (follow === undefined) return folded;
  const order = [...follow.joints, "thigh.L", "thigh.R"];
  for (let corner = 0; corner < count; corner += 1)
    for (const [joint, weight] of weightsAt(follow, figure, bones, [
      ...positions.subarray(corner * 3, corner * 3 + 3),
    ])) {
      const at = corner * 6 + (order.indexOf(joint) % 6);
      folded[at] = (folded[at] ?? 0) + weight;
    }
  return folded;
}

function weightsOf(
  { positions }: Surface,
  follow: Follow,
  { figure, bones, joints }: MeshOptions,
): { joints: Uint8Array; weights: Uint8Array } {
  const count = positions.length / 3;
  const result = { joints: new Uint8Array(count * 4), weights: new Uint8Array(count * 4) };
  for (let corner = 0; corner < count; corner += 1) {
    const strongest = [...weightsAt(follow, figure, bones, [...positions.subarray(corner * 3, corner * 3 + 3)])];
    let left = 255;
    for (const [at, [joint, weight]] of strongest.entries()) {
      const share = Math.min(left, Math.round(weight * 255));
      result.joints[corner * 4 + at] = joints.indexOf(joint);
      result.weights[corner * 4 + at] = share;
      left -= share;
    }
    // What rounding left over goes to the strongest.
    result.weights[corner * 4] = (result.weights[corner * 4] ?? 0) + left;
  }
  return result;
}
