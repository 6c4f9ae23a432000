import type { Accessor, Document, Node, Primitive } from "@gltf-transform/core";
import { artFinding } from "../art/found.ts";
import { message } from "../base/message.ts";
import type { Problem } from "../base/problem.ts";
import { numbersOf } from "./numbers.ts";

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
    const array = primitive.getAttribute(semantic)?.getArray() ?? [];
    if (array instanceof Float32Array && !areNumbers(array)) return true;
    return semantic.startsWith("JOINTS_") && node.getSkin() !== null && !areBelow(array, count);
  });
}

/** Whether all are numbers, and none is infinite: only of those nothing is left of each times 0. */
function areNumbers(array: Float32Array): boolean {
  let nothing = 0;
  for (let at = 0; at < array.length; at += 1) nothing += (array[at] as number) * 0;
  return nothing === 0;
}

function areBelow(array: ArrayLike<number>, limit: number): boolean {
  for (let at = 0; at < array.length; at += 1) if (!((array[at] as number) < limit)) return false;
  return true;
}

interface WeightSet {
  readonly joints: Accessor;
  readonly weights: Accessor;
}

/** Keeps the four strongest weights of each corner, and makes them 1 together. */
function mendWeights(primitive: Primitive, counts: { weighed: number; many: number }): void {
  const sets: WeightSet[] = [];
  for (let set = 0; ; set += 1) {
    const [joints, weights] = [primitive.getAttribute(`JOINTS_${set}`), primitive.getAttribute(`WEIGHTS_${set}`)];
    if (joints === null || weights === null) break;
    sets.push({ joints, weights });
  }
  const [first, ...others] = sets;
  if (first === undefined || (others.length === 0 && areWhole(first))) return;
  const count = first.weights.getCount();
  const joints = new Uint16Array(count * 4);
  const weights = new Float32Array(count * 4);
  const read = sets.map((set) => ({ joints: numbersOf(set.joints), weights: numbersOf(set.weights) }));
  for (let corner = 0; corner < count; corner += 1) {
    const all = read.flatMap((set) =>
      [0, 1, 2, 3].map((each) => ({
        joint: set.joints[corner * 4 + each] ?? 0,
        weight: set.weights[corner * 4 + each] ?? 0,
      })),
    );
    const kept = all.toSorted((one, other) => other.weight - one.weight).slice(0, 4);
    const sum = kept.reduce((total, { weight }) => total + weight, 0);
    if (all.filter(({ weight }) => weight > 0).length > 4) counts.many += 1;
    else if (Math.abs(sum - 1) > slack) counts.weighed += 1;
    for (const [number, { joint, weight }] of kept.entries()) {
      // What a corner does not follow has no number, either.
      joints[corner * 4 + number] = weight > 0 ? joint : 0;
      weights[corner * 4 + number] = sum > 0 ? weight / sum : number === 0 ? 1 : 0;
    }
  }
  // Another mesh may share them, with other joints: it gets its own.
  const buffer = first.weights.getBuffer();
  primitive.setAttribute("JOINTS_0", first.joints.clone().setArray(joints).setBuffer(buffer));
  primitive.setAttribute("WEIGHTS_0", first.weights.clone().setArray(weights).setNormalized(false).setBuffer(buffer));
  for (const set of others.keys()) {
    primitive.setAttribute(`JOINTS_${set + 1}`, null);
    primitive.setAttribute(`WEIGHTS_${set + 1}`, null);
  }
}

/** Whether the weights of every corner are 1 together, and no joint is named that it does not follow. */
function areWhole(set: WeightSet): boolean {
  const [joints, weights] = [numbersOf(set.joints), numbersOf(set.weights)];
  for (let at = 0; at < weights.length; at += 4) {
    const sum =
      (weights[at] as number) + (weights[at + 1] as number) + (weights[at + 2] as number) + (weights[at + 3] as number);
    if (Math.abs(sum - 1) > slack) return false;
    for (let each = at; each < at + 4; each += 1) if ((joints[each] as number) > 0 && weights[each] === 0) return false;
  }
  return true;
}

/** Whether a node turns its mesh inside out. */
function isMirrored(node: Node): boolean {
  const [a = 0, b = 0, c = 0, , d = 0, e = 0, f = 0, , g = 0, h = 0, i = 0] = node.getWorldMatrix();
  return a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g) < 0;
}
