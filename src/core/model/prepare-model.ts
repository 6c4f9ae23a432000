import type { Accessor, Document, Material, Node, Primitive } from "@gltf-transform/core";
import { MantleError } from "../base/problem.ts";
import type { Rig } from "../catalog/model/catalog.ts";
import type { Look, LookMesh } from "../look/look.ts";
import { lacksJoint } from "./lacks-joint.ts";
import { identity, type Matrix, multiply } from "./matrix.ts";
import { numbersOf } from "./numbers.ts";
import { openModel } from "./open-model.ts";
import type { Skeleton } from "./pose.ts";
import { type MaterialFacts, type Shading, shadingOf } from "./shading.ts";
import { shownNodes } from "./shown-nodes.ts";
import { ModelSkeleton } from "./skeleton.ts";
import { type CornerColors, cornerColors, cutoffOf, type PieceTexture, Textures } from "./surface.ts";

/** A figure of a look, ready to be drawn at any moment. */
export interface PreparedModel {
  readonly rig: Rig;
  /** What the form shows in place of an animation. */
  readonly animations: Look["animations"];
  /** How large it is, 1 as usual. */
  readonly scale: number;
  readonly skeleton: Skeleton;
  readonly pieces: readonly PreparedPiece[];
}

/** Triangles of one material. */
export interface PreparedPiece {
  /** The part it belongs to; `undefined` for the body. */
  readonly part: string | undefined;
  /** The name of the node that shows it. */
  readonly node: string;
  /** x, y and z of each corner, at rest. */
  readonly positions: Float32Array;
  readonly normals: Float32Array;
  /** Three corners a triangle. */
  readonly triangles: Uint32Array;
  /** Four joints a corner, by their numbers in the skeleton, and how much it follows each; none for what hangs. */
  readonly joints: Uint16Array | undefined;
  readonly weights: Float32Array | undefined;
  /** For each joint it follows, what brings a corner from its rest to the joint. */
  readonly binds: ReadonlyMap<number, Matrix>;
  /** The joint it hangs on, and where on it; `undefined` joint for what stands by itself. */
  readonly hang: { readonly joint: number | undefined; readonly at: Matrix };
  readonly openness: CornerColors["openness"];
  /** Whether it is seen from behind, too. */
  readonly isDoubleSided: boolean;
  /** Whether its file mirrors it, so that its triangles turn the other way. */
  readonly isMirrored: boolean;
  readonly shading: Shading;
  /** The channel that colors it; `""` for what has colors of its own. */
  readonly channel: string;
  /** What is painted on it, and the colors of its corners; its tones multiply both. */
  readonly texture: PieceTexture | undefined;
  readonly tint: CornerColors["tint"];
  /** How opaque its texture has to be where it is seen; `undefined` for all of it. */
  readonly cutoff: number | undefined;
}

/**
 * Prepares the figure of a look for `drawModel`: reads its models, and keeps what drawing needs.
 *
 * @param models - the bytes of the files that the look names, and of its rig's model, by their paths.
 * @throws MantleError `no-model`, `missing-model`, `unreadable-model` and `other-skeleton`, as `assembleModel` does; `bad-picture` for a texture.
 */
export async function prepareModel(look: Look, models: ReadonlyMap<string, Uint8Array>): Promise<PreparedModel> {
  const { rig, animations, scale } = look;
  if (look.skeleton === undefined)
    throw new MantleError("no-model", `The rig "${rig.id}" has no model: it is seen in pictures only.`);
  const opened = new Map<string, Document>();
  const open = async (file: string) => {
    const document = opened.get(file) ?? (await openModel(file, models));
    opened.set(file, document);
    return document;
  };
  const skeleton = new ModelSkeleton(await open(look.skeleton));
  const pieces: PreparedPiece[] = [];
  const textures = new Textures();
  for (const mesh of look.meshes) {
    const document = await open(mesh.file);
    for (const node of shownNodes(document, mesh)) {
      for (const primitive of node.getMesh()?.listPrimitives() ?? []) {
        const piece = preparePiece(primitive, node, mesh, skeleton, await textures.of(primitive));
        if (piece !== undefined) pieces.push(piece);
      }
    }
  }
  return { rig, animations, scale, skeleton, pieces };
}

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

/** The channels that color a model, and `""` if something has colors of its own. */
export function channelsOf({ pieces }: PreparedModel): readonly string[] {
  return [...new Set(pieces.map(({ channel }) => channel))].sort();
}
