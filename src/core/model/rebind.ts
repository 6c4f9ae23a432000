import type { Accessor, Document, mat4, Node, Primitive, PrimitiveTarget, Skin } from "@gltf-transform/core";
import { withAncestors } from "./find-pieces.ts";
import { identity, inverted, type Matrix, multiply } from "./matrix.ts";
import { numbersOf } from "./numbers.ts";

/** How far, for the height of the skeleton, a joint may be from where its parent's turn brings it. */
const close = 0.05;

/**
 * Brings a figure into the pose in which another skeleton rests, and binds its meshes to that: each corner goes where the joints that it follows
 * go, as in any pose (glTF 2.0, §3.7.3.3), and stays there.
 *
 * @param names - what joints are called in the skeleton, where that is not their own name.
 * @returns joints that lie otherwise in the skeleton than their axes say, so that nothing was bound: the two count angles from other axes.
 */
export function rebind(document: Document, skeleton: Document, names: ReadonlyMap<string, string>): readonly string[] {
  const there = new Map(
    skeleton
      .getRoot()
      .listNodes()
      .map((node) => [node.getName(), node]),
  );
  const skins = document.getRoot().listSkins();
  const joints = withAncestors(skins.flatMap((skin) => skin.listJoints()));
  const placeOf = (joint: Node) => there.get(names.get(joint.getName()) ?? joint.getName())?.getWorldMatrix();
  const twisted = joints.filter((joint) => isTwisted(joint, placeOf)).map((joint) => joint.getName());
  if (twisted.length > 0) return twisted;
  const moved = new Set<Primitive>();
  for (const node of document.getRoot().listNodes()) {
    const [mesh, skin] = [node.getMesh(), node.getSkin()];
    if (mesh === null || skin === null) continue;
    const matrices = movesOf(skin, placeOf);
    for (const primitive of mesh.listPrimitives()) {
      if (!moved.has(primitive)) movePrimitive(document, primitive, matrices);
      moved.add(primitive);
    }
  }
  const rests = new Map(joints.map((joint) => [joint, placeOf(joint)]));
  // Parents come first, so that what is above a joint stands where it will.
  for (const [joint, rest] of rests) {
    if (rest === undefined) continue;
    const above = joint.getParentNode()?.getWorldMatrix() ?? identity;
    joint.setMatrix(multiply(inverted(above), rest) as mat4);
  }
  for (const skin of skins) bindAnew(document, skin);
  return [];
}

/** Whether a joint lies elsewhere than the turn of its parent says: then the two skeletons have other axes. */
function isTwisted(joint: Node, placeOf: (joint: Node) => Matrix | undefined): boolean {
  const parent = joint.getParentNode();
  const [here, above] = [placeOf(joint), parent === null ? undefined : placeOf(parent)];
  if (parent === null || here === undefined || above === undefined) return false;
  const brought = multiply(above, multiply(inverted(parent.getWorldMatrix()), joint.getWorldMatrix()));
  const away = Math.hypot(...[12, 13, 14].map((at) => (brought[at] as number) - (here[at] as number)));
  const [x = 0, y = 0, z = 0] = joint.getTranslation();
  // Limbs may be of other lengths, and must not point elsewhere.
  return away > Math.hypot(x, y, z) * 0.5 + close * Math.abs(here[13] as number);
}

/** For each joint of a skin, what brings a corner from where it is to where it will be. */
function movesOf(skin: Skin, placeOf: (joint: Node) => Matrix | undefined): readonly Matrix[] {
  const binds = skin.getInverseBindMatrices();
  return skin.listJoints().map((joint, at) => {
    const bind = binds?.getElement(at, []) ?? identity;
    return multiply(placeOf(joint) ?? inverted(bind), bind);
  });
}

function movePrimitive(document: Document, primitive: Primitive, matrices: readonly Matrix[]): void {
  const [joints, weights] = ["JOINTS_0", "WEIGHTS_0"].map((name) => primitive.getAttribute(name));
  if (!joints || !weights) return;
  const [numbers, shares] = [numbersOf(joints), numbersOf(weights)];
  const blended = Array.from({ length: joints.getCount() }, (_, corner) =>
    blend(matrices, numbers, shares, corner * 4),
  );
  const move = (owner: Primitive | PrimitiveTarget, name: string, isPlace: boolean) => {
    const accessor = owner.getAttribute(name);
    if (accessor !== null)
      owner.setAttribute(name, movedBy(document, accessor, blended, isPlace ? 1 : 0, name !== "POSITION"));
  };
  for (const name of ["POSITION", "NORMAL", "TANGENT"]) {
    move(primitive, name, name === "POSITION");
    // What a target adds is a way, not a place.
    for (const target of primitive.listTargets()) move(target, name, false);
  }
}

function blend(
  matrices: readonly Matrix[],
  joints: ArrayLike<number>,
  weights: ArrayLike<number>,
  first: number,
): Matrix {
  const sum = new Array<number>(16).fill(0);
  for (let each = first; each < first + 4; each += 1) {
    const matrix = matrices[joints[each] as number];
    for (let at = 0; at < 16 && matrix !== undefined; at += 1)
      sum[at] = (sum[at] as number) + (matrix[at] as number) * (weights[each] as number);
  }
  return sum;
}

/** A copy of an accessor whose elements are moved. @param place - 1 for places, 0 for directions. */
function movedBy(
  document: Document,
  accessor: Accessor,
  matrices: readonly Matrix[],
  place: 0 | 1,
  isUnit: boolean,
): Accessor {
  const size = accessor.getElementSize();
  const values = Float32Array.from(numbersOf(accessor));
  for (const [corner, matrix] of matrices.entries()) {
    const at = corner * size;
    const [x, y, z] = [values[at] as number, values[at + 1] as number, values[at + 2] as number];
    const moved = [0, 1, 2].map(
      (row) =>
        (matrix[row] as number) * x +
        (matrix[row + 4] as number) * y +
        (matrix[row + 8] as number) * z +
        (matrix[row + 12] as number) * place,
    );
    const length = isUnit && place === 0 ? Math.hypot(...moved) || 1 : 1;
    for (let axis = 0; axis < 3; axis += 1) values[at + axis] = (moved[axis] as number) / length;
  }
  return document
    .createAccessor(accessor.getName())
    .setType(accessor.getType())
    .setArray(values)
    .setBuffer(accessor.getBuffer());
}

/** Binds a skin to its joints as they rest now. */
function bindAnew(document: Document, skin: Skin): void {
  const matrices = skin.listJoints().flatMap((joint) => [...inverted(joint.getWorldMatrix())]);
  const [buffer = null] = document.getRoot().listBuffers();
  skin.setInverseBindMatrices(
    document.createAccessor().setType("MAT4").setArray(Float32Array.from(matrices)).setBuffer(buffer),
  );
}
