import type { Accessor, Material, Node, Primitive } from "@gltf-transform/core";
import type { LookMesh } from "../look/look.ts";
import { lacksJoint } from "./lacks-joint.ts";
import { identity, multiply } from "./matrix.ts";
import { numbersOf } from "./numbers.ts";
import type { Skeleton } from "./pose.ts";
import type { PieceTexture, PreparedPiece } from "./prepared-model.ts";
import { type MaterialFacts, shadingOf } from "./shading.ts";
import { cornerColors, cutoffOf } from "./surface.ts";

/** Prepares a primitive of a mesh, on a skeleton; `undefined` for one of which there is nothing to see. */
export function preparePiece(
  primitive: Primitive,
  node: Node,
  mesh: LookMesh,
  skeleton: Skeleton,
  texture: PieceTexture | undefined,
): PreparedPiece | undefined {
  const position = primitive.getAttribute("POSITION");
  // Only triangles, each with corners of its own (glTF 2.0, §3.7.2.1, mode 4): lines and points are no cloth.
  if (position === null || primitive.getMode() !== 4) return undefined;
  const material = primitive.getMaterial();
  const cutoff = cutoffOf(material);
  if (cutoff !== undefined && cutoff > 1) return undefined;
  const count = position.getCount();
  const list = primitive.getIndices()?.getArray();
  const triangles = list
    ? Uint32Array.from(list as ArrayLike<number>)
    : Uint32Array.from({ length: count }, (_, at) => at);
  const positions = flat(position);
  const normal = primitive.getAttribute("NORMAL");
  const skin = mesh.attach === undefined ? node.getSkin() : null;
  const [joints, weights] = [primitive.getAttribute("JOINTS_0"), primitive.getAttribute("WEIGHTS_0")];
  const shared = {
    part: mesh.part,
    node: node.getName(),
    positions,
    normals: normal === null ? normalsOf(positions, triangles) : flat(normal),
    triangles,
    ...cornerColors(primitive.getAttribute("COLOR_0")),
    cutoff: texture === undefined ? undefined : cutoff,
    isDoubleSided: material?.getDoubleSided() ?? false,
    shading: shadingOf(factsOf(material), mesh),
    channel: (mesh.recolors.get(material?.getName() ?? "") ?? mesh.recolors.get(""))?.channel ?? "",
    texture,
  };
  if (skin === null || joints === null || weights === null) {
    const joint = mesh.attach === undefined ? undefined : numberOf(mesh.attach.joint, mesh.file, skeleton);
    const [x, y, z] = mesh.attach?.offset ?? [0, 0, 0];
    const at = multiply([1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, x, y, z, 1], node.getMatrix());
    const isMirrored = node.getScale().reduce((product, value) => product * value, 1) < 0;
    return { ...shared, isMirrored, joints: undefined, weights: undefined, binds: new Map(), hang: { joint, at } };
  }
  const numbers = skin.listJoints().map((joint) => numberOf(joint.getName(), mesh.file, skeleton));
  const matrices = skin.getInverseBindMatrices();
  const binds = new Map(numbers.map((number, at) => [number, matrices?.getElement(at, []) ?? identity]));
  return {
    ...shared,
    isMirrored: false,
    joints: Uint16Array.from(flat(joints), (joint) => numbers[joint] ?? 0),
    weights: flat(weights),
    binds,
    hang: { joint: undefined, at: identity },
  };
}

function numberOf(joint: string, file: string, { numbers }: Skeleton): number {
  const number = numbers.get(joint);
  if (number !== undefined) return number;
  throw lacksJoint(file, joint);
}

/** All numbers of an accessor, as floats. */
function flat(accessor: Accessor): Float32Array {
  return Float32Array.from(numbersOf(accessor));
}

/** Normals of corners: the mean of those of their triangles, larger ones counting more. */
function normalsOf(positions: Float32Array, triangles: Uint32Array): Float32Array {
  const normals = new Float32Array(positions.length);
  const at = (corner: number, axis: number) => positions[(triangles[corner] as number) * 3 + axis] as number;
  for (let first = 0; first < triangles.length; first += 3) {
    const [a, b] = [1, 2].map((other) => [0, 1, 2].map((axis) => at(first + other, axis) - at(first, axis)));
    const [ax = 0, ay = 0, az = 0] = a ?? [];
    const [bx = 0, by = 0, bz = 0] = b ?? [];
    const normal = [ay * bz - az * by, az * bx - ax * bz, ax * by - ay * bx];
    for (let corner = 0; corner < 3; corner += 1)
      for (let axis = 0; axis < 3; axis += 1) {
        const place = (triangles[first + corner] as number) * 3 + axis;
        normals[place] = (normals[place] as number) + (normal[axis] as number);
      }
  }
  return normals;
}

function factsOf(material: Material | null): MaterialFacts {
  if (material === null) return { name: "", color: [1, 1, 1], glows: false, extras: undefined };
  return {
    name: material.getName(),
    color: material.getBaseColorFactor(),
    glows: material.getEmissiveFactor().some((light) => light > 0),
    extras: material.getExtras(),
  };
}
