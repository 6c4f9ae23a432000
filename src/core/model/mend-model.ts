import type { Accessor, Document, Node, Primitive } from "@gltf-transform/core";
import { artFinding } from "../art/found.ts";
import { message } from "../base/message.ts";
import type { Problem } from "../base/problem.ts";

/** How far from 1 the weights of a corner may be together, before they are said not to be. */
const slack = 1e-3;

/**
 * Mends what can be mended in a model, and says so: nodes get names of their own, weights become four a corner that make 1 together.
 * What cannot be mended is an error: numbers that are none.
 *
 * @param extensions - what the file uses besides glTF 2.0 itself, which is not kept.
 */
export function mendModel(file: string, document: Document, extensions: readonly string[]): readonly Problem[] {
  const problems: Problem[] = [];
  nameNodes(document);
  if (extensions.length > 0)
    problems.push(
      artFinding(file, "warning", message("extensions-left", { extensions }), message("mend-extensions-left")),
    );
  for (const node of document.getRoot().listNodes()) {
    const mesh = node.getMesh();
    if (mesh === null) continue;
    const named = { mesh: node.getName() };
    const counts = { weighed: 0, many: 0 };
    for (const primitive of mesh.listPrimitives()) {
      const broken = brokenIn(primitive, node);
      if (broken !== undefined)
        problems.push(
          artFinding(file, "error", message("not-numbers", { ...named, what: broken }), message("export-again")),
        );
      else mendWeights(primitive, counts);
    }
    if (counts.many > 0)
      problems.push(artFinding(file, "warning", message("many-weights", { ...named, count: counts.many })));
    if (counts.weighed > 0)
      problems.push(artFinding(file, "warning", message("weights-mended", { ...named, count: counts.weighed })));
    if (isMirrored(node))
      problems.push(artFinding(file, "warning", message("negative-scale", named), message("mend-negative-scale")));
  }
  return problems;
}

/** Gives every node a name that no other has: parts find joints by them. */
function nameNodes(document: Document): void {
  const taken = new Set<string>();
  for (const [number, node] of document.getRoot().listNodes().entries()) {
    const name = node.getName() || `node-${number}`;
    let own = name;
    for (let more = 2; taken.has(own); more += 1) own = `${name}-${more}`;
    taken.add(own);
    node.setName(own);
  }
}

/** The attribute of a primitive that has what is no number, or a joint that is not there. */
function brokenIn(primitive: Primitive, node: Node): string | undefined {
  const count = node.getSkin()?.listJoints().length ?? 0;
  return primitive.listSemantics().find((semantic) => {
    const array: ArrayLike<number> = primitive.getAttribute(semantic)?.getArray() ?? [];
    const limit = semantic.startsWith("JOINTS_") && node.getSkin() !== null ? count : Number.POSITIVE_INFINITY;
    for (let at = 0; at < array.length; at += 1) {
      const value = array[at] as number;
      if (!(Number.isFinite(value) && value < limit)) return true;
    }
    return false;
  });
}

/** Keeps the four strongest weights of each corner, and makes them 1 together. */
function mendWeights(primitive: Primitive, counts: { weighed: number; many: number }): void {
  const sets: { readonly joints: Accessor; readonly weights: Accessor }[] = [];
  for (let set = 0; ; set += 1) {
    const [joints, weights] = [primitive.getAttribute(`JOINTS_${set}`), primitive.getAttribute(`WEIGHTS_${set}`)];
    if (joints === null || weights === null) break;
    sets.push({ joints, weights });
  }
  const [first, ...others] = sets;
  if (first === undefined) return;
  const count = first.weights.getCount();
  const joints = new Uint16Array(count * 4);
  const weights = new Float32Array(count * 4);
  let isChanged = others.length > 0;
  for (let corner = 0; corner < count; corner += 1) {
    const all = sets.flatMap((set) => {
      const [at, by] = [set.joints.getElement(corner, []), set.weights.getElement(corner, [])];
      return by.map((weight, number) => ({ joint: at[number] ?? 0, weight }));
    });
    const kept = all.toSorted((one, other) => other.weight - one.weight).slice(0, 4);
    const sum = kept.reduce((total, { weight }) => total + weight, 0);
    if (all.slice(4).length > 0 && all.filter(({ weight }) => weight > 0).length > 4) counts.many += 1;
    else if (Math.abs(sum - 1) > slack) counts.weighed += 1;
    // What a corner does not follow has no number, either.
    const isIdle = kept.some(({ joint, weight }) => joint > 0 && weight === 0);
    if (Math.abs(sum - 1) > slack || isIdle) isChanged = true;
    for (const [number, { joint, weight }] of kept.entries()) {
      joints[corner * 4 + number] = weight > 0 ? joint : 0;
      weights[corner * 4 + number] = sum > 0 ? weight / sum : number === 0 ? 1 : 0;
    }
  }
  if (!isChanged) return;
  // Another mesh may share them, with other joints: it gets its own.
  const buffer = first.weights.getBuffer();
  primitive.setAttribute("JOINTS_0", first.joints.clone().setArray(joints).setBuffer(buffer));
  primitive.setAttribute("WEIGHTS_0", first.weights.clone().setArray(weights).setNormalized(false).setBuffer(buffer));
  for (const set of others.keys()) {
    primitive.setAttribute(`JOINTS_${set + 1}`, null);
    primitive.setAttribute(`WEIGHTS_${set + 1}`, null);
  }
}

/** Whether a node turns its mesh inside out. */
function isMirrored(node: Node): boolean {
  const [a = 0, b = 0, c = 0, , d = 0, e = 0, f = 0, , g = 0, h = 0, i = 0] = node.getWorldMatrix();
  return a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g) < 0;
}
