import type { Document, Node, Skin } from "@gltf-transform/core";
import { getOrInsert } from "../base/get-or-insert.ts";
import { numbersOf } from "./numbers.ts";

/** What a figure consists of, before it is cut. */
export interface Pieces {
  /** The joints that its meshes bend with, and places that clips move, those above them included, from the root down. */
  readonly joints: readonly Node[];
  /** Joints that no corner of any mesh follows, nor any joint below them, nor what hangs on them. */
  readonly idle: readonly string[];
  readonly pieces: readonly Piece[];
}

/** A node that shows a mesh. */
export interface Piece {
  readonly name: string;
  readonly node: Node;
  readonly skin: Skin | undefined;
  /** The joint it hangs on; `undefined` for one with a skin, or that hangs on none. */
  readonly hangsOn: Node | undefined;
  readonly triangles: number;
  /** The names of the joints its corners follow. */
  readonly follows: ReadonlySet<string>;
  /** The names of its materials. */
  readonly materials: readonly string[];
  /** The box around it in the pose of the file, in units of the model. */
  readonly box: Box;
  /** Whether its skin has joints of another skeleton than that of most. */
  readonly isForeign: boolean;
}

export interface Box {
  readonly min: readonly number[];
  readonly max: readonly number[];
}

/** Finds the meshes of a figure, and what each of them follows. */
export function findPieces(document: Document): Pieces {
  const shown = document
    .getRoot()
    .listNodes()
    .filter((node) => node.getMesh() !== null);
  const roots = new Map<Node, number>();
  for (const node of shown) {
    const root = rootOf(node.getSkin()?.listJoints()[0] ?? null);
    if (root !== undefined) roots.set(root, (roots.get(root) ?? 0) + 1);
  }
  const [main] = [...roots].toSorted(([, one], [, other]) => other - one)[0] ?? [];
  const skins = document
    .getRoot()
    .listSkins()
    .filter((skin) => rootOf(skin.listJoints()[0] ?? null) === main);
  const joints = withAncestors([...skins.flatMap((skin) => skin.listJoints()), ...movedNodes(document, main)]);
  const all = new Set(joints);
  const pieces = shown.map((node) => pieceOf(node, main, all));
  const followed = new Set(
    pieces.flatMap(({ follows, hangsOn }) => [...follows, ...(hangsOn ? [hangsOn.getName()] : [])]),
  );
  const used = new Set(withAncestors(joints.filter((joint) => followed.has(joint.getName()))));
  return { joints, idle: joints.filter((joint) => !used.has(joint)).map((joint) => joint.getName()), pieces };
}

/** What clips move of a skeleton without that any skin has it: places that things hang on. */
function movedNodes(document: Document, main: Node | undefined): readonly Node[] {
  const clips = document.getRoot().listAnimations();
  const moved = new Set(
    clips.flatMap((clip) => clip.listChannels().flatMap((channel) => channel.getTargetNode() ?? [])),
  );
  return [...moved].filter((node) => node.getMesh() === null && main !== undefined && rootOf(node) === main);
}

function pieceOf(node: Node, main: Node | undefined, joints: ReadonlySet<Node>): Piece {
  const skin = node.getSkin() ?? undefined;
  const mesh = node.getMesh();
  const primitives = mesh?.listPrimitives() ?? [];
  const followed = new Uint8Array(skin?.listJoints().length ?? 0);
  let triangles = 0;
  for (const primitive of primitives) {
    const corners = primitive.getIndices()?.getCount() ?? primitive.getAttribute("POSITION")?.getCount() ?? 0;
    triangles += Math.floor(corners / 3);
    const [at, by] = [primitive.getAttribute("JOINTS_0"), primitive.getAttribute("WEIGHTS_0")];
    if (skin === undefined || at === null || by === null) continue;
    const [numbers, weights] = [numbersOf(at), numbersOf(by)];
    for (let each = 0; each < numbers.length; each += 1)
      if ((weights[each] as number) > 0) followed[numbers[each] as number] = 1;
  }
  const all = skin?.listJoints() ?? [];
  const follows = new Set(all.flatMap((joint, number) => (followed[number] === 1 ? [joint.getName()] : [])));
  return {
    name: node.getName(),
    node,
    skin,
    hangsOn: skin === undefined ? ancestors(node).find((each) => joints.has(each)) : undefined,
    triangles,
    follows,
    materials: [...new Set(primitives.map((each) => each.getMaterial()?.getName() ?? ""))],
    box: boxOf(node),
    isForeign: skin !== undefined && rootOf(skin.listJoints()[0] ?? null) !== main,
  };
}

/** The nodes above one, the nearest first. */
export function ancestors(node: Node): readonly Node[] {
  const all: Node[] = [];
  for (let each = node.getParentNode(); each !== null; each = each.getParentNode()) all.push(each);
  return all;
}

function rootOf(node: Node | null): Node | undefined {
  return node === null ? undefined : (ancestors(node).at(-1) ?? node);
}

/** Nodes and all that are above them, from the roots down, each once. */
export function withAncestors(nodes: readonly Node[]): readonly Node[] {
  const all = new Set<Node>();
  for (const node of nodes) {
    const way: Node[] = [];
    for (let each: Node | null = node; each !== null && !all.has(each); each = each.getParentNode()) way.push(each);
    for (const each of way.toReversed()) all.add(each);
  }
  return [...all];
}

/** The box around a mesh as it stands in the file: what has a skin stands where its corners do. */
function boxOf(node: Node): Box {
  const matrix = node.getSkin() === null ? node.getWorldMatrix() : undefined;
  const min = [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY];
  const max = min.map((value) => -value);
  for (const primitive of node.getMesh()?.listPrimitives() ?? []) {
    const accessor = primitive.getAttribute("POSITION");
    const positions = accessor === null ? [] : numbersOf(accessor);
    for (let corner = 0; corner < positions.length; corner += 3) {
      const [x, y, z] = [positions[corner] as number, positions[corner + 1] as number, positions[corner + 2] as number];
      for (let axis = 0; axis < 3; axis += 1) {
        const at =
          matrix === undefined
            ? (positions[corner + axis] as number)
            : (matrix[axis] as number) * x +
              (matrix[axis + 4] as number) * y +
              (matrix[axis + 8] as number) * z +
              (matrix[axis + 12] as number);
        if (at < (min[axis] as number)) min[axis] = at;
        if (at > (max[axis] as number)) max[axis] = at;
      }
    }
  }
  return { min, max };
}

/** How far two boxes are apart, in units of the model; 0 where they touch. */
export function gapBetween(one: Box, other: Box): number {
  const gaps = [0, 1, 2].map((axis) =>
    Math.max(0, (one.min[axis] ?? 0) - (other.max[axis] ?? 0), (other.min[axis] ?? 0) - (one.max[axis] ?? 0)),
  );
  return Math.hypot(...gaps);
}

/** Groups of pieces that stand in one place, named alike: variations of one thing. */
export function variations(pieces: readonly Piece[]): readonly (readonly Piece[])[] {
  const alike = new Map<string, Piece[]>();
  for (const piece of pieces) {
    const stem = piece.name.replace(/[\s._-]*(\d+|[A-Z])$/, "").toLowerCase();
    getOrInsert(alike, stem, () => []).push(piece);
  }
  return [...alike.values()].filter(
    (group) => group.length > 1 && group.every(({ box }) => gapBetween(box, group[0]?.box ?? box) === 0),
  );
}
