import { type Message, message } from "../base/message.ts";
import { type Problem, pointerTo } from "../base/problem.ts";

/** A parsed glTF document, of which nothing is believed yet. */
export type Json = Readonly<Record<string, unknown>>;

/** How much of everything a model may have: more than any figure needs, and little enough to be looked through at once. */
const most = 100_000;

/** The same of what is compared with one another. */
const mostCompared: ReadonlySet<string> = new Set(["nodes", "meshes", "skins", "animations"]);
const fewer = 10_000;

/** How deep nodes may be nested: the skeleton of a hand is eight deep. */
const deepest = 256;

/** Elements of an accessor. */
const mostElements = 10_000_000;

/** Bytes of a component, by its number (glTF 2.0, §3.6.2.2). */
const componentBytes: Readonly<Record<number, number>> = { 5120: 1, 5121: 1, 5122: 2, 5123: 2, 5125: 4, 5126: 4 };

/** Components of an element (glTF 2.0, §3.6.2.3). */
const components: Readonly<Record<string, number>> = {
  SCALAR: 1,
  VEC2: 2,
  VEC3: 3,
  VEC4: 4,
  MAT2: 4,
  MAT3: 9,
  MAT4: 16,
};

/** The keys of an entry that hold the number of another, or several: what they are numbers of. */
const references: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  scenes: { nodes: "nodes" },
  nodes: { children: "nodes", mesh: "meshes", skin: "skins" },
  skins: { joints: "nodes", skeleton: "nodes", inverseBindMatrices: "accessors" },
  accessors: { bufferView: "bufferViews" },
  bufferViews: { buffer: "buffers" },
  images: { bufferView: "bufferViews" },
  textures: { source: "images", sampler: "samplers" },
};

/** How many numbers a key of a node holds. */
const lengths: Readonly<Record<string, number>> = { translation: 3, rotation: 4, scale: 3, matrix: 16 };

/**
 * Finds what makes a glTF document impossible to read: numbers of things that are not there, nodes that hold themselves, data that reaches
 * beyond its buffer. Looks at no more than there is, and never throws.
 *
 * @param bytesOf - how many bytes there are of a buffer; `undefined` for one that was not handed in.
 */
export function checkStructure(
  file: string,
  json: Json,
  bytesOf: (buffer: Json, number: number) => number | undefined,
): readonly Problem[] {
  const findings = new StructureFindings(file);
  const lists = new Map(
    Object.entries(json).flatMap(([key, list]) => (Array.isArray(list) ? [[key, list.map(entryOf)] as const] : [])),
  );
  for (const [key, list] of lists) {
    const max = mostCompared.has(key) ? fewer : most;
    if (list.length > max) findings.report([key], message("model-too-large", { count: list.length, max }));
  }
  if (findings.problems.length > 0) return findings.problems;
  const count = (key: string) => lists.get(key)?.length ?? 0;
  for (const [key, list] of lists)
    for (const [number, entry] of list.entries())
      for (const [name, of] of Object.entries(references[key] ?? {}))
        for (const [at, value] of [entry[name] ?? []].flat().entries())
          findings.number([key, number, name, ...(Array.isArray(entry[name]) ? [at] : [])], value, count(of));
  const list = (key: string) => lists.get(key) ?? [];
  checkPrimitives(list("meshes"), findings, count);
  checkClips(list("animations"), findings, count);
  checkNodes(list("nodes"), findings);
  for (const [number, buffer] of list("buffers").entries()) {
    const bytes = bytesOf(buffer, number);
    if (bytes === undefined) findings.report(["buffers", number], message("model-without-buffer"));
    else if (!isCount(buffer["byteLength"]) || buffer["byteLength"] > bytes)
      findings.report(["buffers", number, "byteLength"], message("model-cut-short", { bytes }));
  }
  checkViews(list("bufferViews"), list("buffers"), findings);
  checkAccessors(list("accessors"), list("bufferViews"), findings);
  return findings.problems;
}

/** Bytes of an element of an accessor; 0 for what is none. */
export function bytesOfElement({ type, componentType }: { type?: unknown; componentType?: unknown }): number {
  return (componentBytes[Number(componentType)] ?? 0) * (components[String(type)] ?? 0);
}

class StructureFindings {
  readonly problems: Problem[] = [];
  readonly #file: string;

  constructor(file: string) {
    this.#file = file;
  }

  report(
    keys: readonly (string | number)[],
    finding: Message<
      | "model-too-large"
      | "model-without-buffer"
      | "model-cut-short"
      | "model-not-there"
      | "model-value"
      | "model-node-twice"
      | "model-too-deep"
      | "model-beyond"
    >,
  ): void {
    if (this.problems.length >= 100) return;
    const place = { file: this.#file, pointer: pointerTo(...keys) };
    this.problems.push({ ...finding, severity: "error", place, fixes: [{ code: "export-again", params: {} }] });
  }

  /** Reports what is no number of one of so many. */
  number(keys: readonly (string | number)[], value: unknown, count: number): boolean {
    if (isCount(value) && value < count) return true;
    this.report(keys, message("model-not-there", { value: String(value).slice(0, 40), count }));
    return false;
  }
}

function entryOf(value: unknown): Json {
  return typeof value === "object" && value !== null && !Array.isArray(value) ? (value as Json) : {};
}

function isCount(value: unknown): value is number {
  return typeof value === "number" && Number.isSafeInteger(value) && value >= 0;
}

type Count = (key: string) => number;

function checkPrimitives(meshes: readonly Json[], findings: StructureFindings, count: Count): void {
  for (const [number, { primitives }] of meshes.entries())
    for (const [at, each] of (Array.isArray(primitives) ? primitives : []).map(entryOf).entries()) {
      const keys = ["meshes", number, "primitives", at];
      const targets = Array.isArray(each["targets"]) ? each["targets"].map(entryOf) : [];
      for (const [name, value] of [each["attributes"], ...targets].flatMap((map) => Object.entries(entryOf(map))))
        findings.number([...keys, "attributes", name], value, count("accessors"));
      if (each["indices"] !== undefined) findings.number([...keys, "indices"], each["indices"], count("accessors"));
      if (each["material"] !== undefined) findings.number([...keys, "material"], each["material"], count("materials"));
    }
}

function checkClips(clips: readonly Json[], findings: StructureFindings, count: Count): void {
  for (const [number, { samplers, channels }] of clips.entries()) {
    const all = (Array.isArray(samplers) ? samplers : []).map(entryOf);
    for (const [at, { input, output }] of all.entries())
      for (const [name, value] of Object.entries({ input, output }))
        findings.number(["animations", number, "samplers", at, name], value, count("accessors"));
    for (const [at, { sampler, target }] of (Array.isArray(channels) ? channels : []).map(entryOf).entries()) {
      const keys = ["animations", number, "channels", at];
      findings.number([...keys, "sampler"], sampler, all.length);
      const { node } = entryOf(target);
      if (node !== undefined) findings.number([...keys, "target", "node"], node, count("nodes"));
    }
  }
}

/** Nodes are a forest: each has one parent at the most, and none is above itself. */
function checkNodes(nodes: readonly Json[], findings: StructureFindings): void {
  const parents = new Map<unknown, number>();
  for (const [number, node] of nodes.entries()) {
    for (const [key, length] of Object.entries(lengths)) {
      const value = node[key];
      const isRight = Array.isArray(value) && value.length === length && value.every(Number.isFinite);
      if (value !== undefined && !isRight)
        findings.report(["nodes", number, key], message("model-value", { count: length }));
    }
    for (const [at, child] of [node["children"] ?? []].flat().entries()) {
      if (parents.has(child)) findings.report(["nodes", number, "children", at], message("model-node-twice"));
      parents.set(child, number);
    }
  }
  const roots = nodes.flatMap((_, number) => (parents.has(number) ? [] : [number]));
  const reached = new Map<number, number>(roots.map((root) => [root, 1]));
  for (const [node, depth] of reached)
    for (const child of [nodes[node]?.["children"] ?? []].flat()) reached.set(Number(child), depth + 1);
  const deep = [...reached].find(([, depth]) => depth > deepest);
  if (deep !== undefined) findings.report(["nodes", deep[0]], message("model-too-deep", { max: deepest }));
  // What no root leads to holds itself, on some way.
  const lost = nodes.findIndex((_, number) => !reached.has(number));
  if (lost >= 0) findings.report(["nodes", lost], message("model-node-twice"));
}

function checkViews(views: readonly Json[], buffers: readonly Json[], findings: StructureFindings): void {
  for (const [number, { buffer, byteOffset = 0, byteLength, byteStride = 4 }] of views.entries()) {
    const room = buffers[Number(buffer)]?.["byteLength"];
    const isRight = isCount(byteOffset) && isCount(byteLength) && isCount(byteStride) && byteStride >= 4;
    if (!isRight || byteOffset + byteLength > Number(room))
      findings.report(["bufferViews", number], message("model-beyond"));
  }
}

function checkAccessors(accessors: readonly Json[], views: readonly Json[], findings: StructureFindings): void {
  for (const [number, accessor] of accessors.entries()) {
    const { bufferView, byteOffset = 0, count, sparse } = accessor;
    const size = bytesOfElement(accessor);
    const isRight = size > 0 && isCount(count) && count <= mostElements && isCount(byteOffset);
    if (!isRight) findings.report(["accessors", number], message("model-beyond"));
    else if (bufferView !== undefined && !isWithin(views[Number(bufferView)], byteOffset, count, size))
      findings.report(["accessors", number], message("model-beyond"));
    if (!isRight || sparse === undefined) continue;
    const { count: some, indices, values } = entryOf(sparse);
    const places = entryOf(indices);
    const width = bytesOfElement({ type: "SCALAR", componentType: places["componentType"] });
    const fits =
      isCount(some) &&
      some <= count &&
      width > 0 &&
      isWithin(views[Number(places["bufferView"])], Number(places["byteOffset"] ?? 0), some, width) &&
      isWithin(views[Number(entryOf(values)["bufferView"])], Number(entryOf(values)["byteOffset"] ?? 0), some, size);
    if (!fits) findings.report(["accessors", number, "sparse"], message("model-beyond"));
  }
}

/** Whether so many elements lie in a view. */
function isWithin(view: Json | undefined, offset: number, count: number, size: number): boolean {
  if (view === undefined) return false;
  const stride = typeof view["byteStride"] === "number" ? view["byteStride"] : size;
  return count === 0 || offset + stride * (count - 1) + size <= Number(view["byteLength"]);
}
