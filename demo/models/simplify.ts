import { MeshoptSimplifier } from "meshoptimizer/simplifier";
import type { Surface } from "./surface.ts";

/** How far a simplified surface may lie from the fine one, in pixels, where detail matters as usual. */
const usualError = 0.43;

/**
 * Takes triangles away where the surface is nearly flat, and follows its joints nearly alike.
 *
 * @param normals - of each corner. @param follows - how much each corner follows some joints, six numbers a corner.
 * @param detail - how much finer than usual it is kept.
 */
export async function simplify(
  { positions, triangles }: Surface,
  normals: Float32Array,
  follows: Float32Array,
  detail: number,
): Promise<Surface> {
  await MeshoptSimplifier.ready;
  const count = positions.length / 3;
  const attributes = new Float32Array(count * 9);
  for (let corner = 0; corner < count; corner += 1) {
    attributes.set(normals.subarray(corner * 3, corner * 3 + 3), corner * 9);
    attributes.set(follows.subarray(corner * 6, corner * 6 + 6), corner * 9 + 3);
  }
  const [kept] = MeshoptSimplifier.simplifyWithAttributes(
    triangles,
    positions,
    3,
    attributes,
    9,
    [0.35, 0.35, 0.35, 0.6, 0.6, 0.6, 0.6, 0.6, 0.6],
    null,
    0,
    usualError / detail,
    ["ErrorAbsolute", "Prune"],
  );
  const [compact, left] = compacted(kept, count);
  const moved = new Float32Array(left * 3);
  for (let corner = 0; corner < count; corner += 1) {
    const to = compact[corner] as number;
    if (to !== nowhere) moved.set(positions.subarray(corner * 3, corner * 3 + 3), to * 3);
  }
  return { positions: moved, triangles: kept.map((corner) => compact[corner] as number) };
}

const nowhere = 0xffffffff;

/** New numbers of the corners that are left. */
function compacted(triangles: Uint32Array, count: number): readonly [Uint32Array, number] {
  const numbers = new Uint32Array(count).fill(nowhere);
  let next = 0;
  for (const corner of triangles) {
    if (numbers[corner] !== nowhere) continue;
    numbers[corner] = next;
    next += 1;
  }
  return [numbers, next];
}
