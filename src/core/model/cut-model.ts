import {
  type Animation,
  type Document,
  type JSONDocument,
  Logger,
  Mesh,
  type mat4,
  type Node,
  type Property,
  PropertyType,
  type Scene,
  WebIO,
} from "@gltf-transform/core";
import { ancestors, withAncestors } from "./find-pieces.ts";
import { identity, type Matrix, multiply } from "./matrix.ts";

/** Writes and reads models without a word on the console. */
export function quietIO(): WebIO {
  return new WebIO().setLogger(new Logger(Logger.Verbosity.SILENT));
}

/** What of a model a file of its own keeps. */
export interface Cut {
  /** The names of the nodes whose meshes are kept. */
  readonly nodes: ReadonlySet<string>;
  /** Whether clips are kept. */
  readonly clips: boolean;
  /** The joint to whose place a mesh without a skin is brought; it hangs on it when it is worn. */
  readonly hangsOn: string | undefined;
}

/** A model as text and bytes, so that each file is cut from a copy of its own. */
export async function copyOf(document: Document): Promise<JSONDocument> {
  return quietIO().writeJSON(document);
}

/**
 * Cuts a file out of a model: the whole skeleton, the meshes that are named with all they use, and the clips if they are wanted. Everything
 * else is left out.
 *
 * @param model - of `copyOf`; not changed.
 * @returns a binary glTF file.
 */
export async function cutModel(model: JSONDocument, { nodes, clips, hangsOn }: Cut): Promise<Uint8Array> {
  const document = (await quietIO().readJSON(model)).setLogger(new Logger(Logger.Verbosity.SILENT));
  const root = document.getRoot();
  const all = root.listNodes();
  for (const node of all) if (!nodes.has(node.getName())) node.setMesh(null).setSkin(null);
  if (!clips) for (const clip of root.listAnimations()) removeClip(clip);
  const shown = all.filter((node) => node.getMesh() !== null);
  const scene = root.getDefaultScene() ?? root.listScenes()[0] ?? document.createScene();
  for (const node of shown) {
    if (hangsOn !== undefined) bringTo(node, hangsOn, scene);
    // What has a skin stands where its joints do, and nowhere else.
    else if (node.getSkin() !== null) {
      node.getParentNode()?.removeChild(node);
      scene.addChild(node.setMatrix(identity as mat4));
    }
  }
  const joints = new Set(shown.flatMap((node) => node.getSkin()?.listJoints() ?? []));
  // With clips the skeleton is kept whole: every joint of every skin, and what clips move.
  const moved = root
    .listAnimations()
    .flatMap((clip) => clip.listChannels().flatMap((each) => each.getTargetNode() ?? []));
  const whole = clips ? [...root.listSkins().flatMap((skin) => skin.listJoints()), ...moved] : [];
  const kept = new Set(withAncestors([...shown, ...joints, ...whole]));
  for (const node of all) if (!kept.has(node)) node.dispose();
  for (const camera of root.listCameras()) camera.dispose();
  for (const scene of root.listScenes().slice(1)) scene.dispose();
  return writeModel(document);
}

/** Makes a node a child of the scene, standing as it does relative to a joint above it. */
function bringTo(node: Node, joint: string, scene: Scene): void {
  const above = ancestors(node);
  const at = above.findIndex((each) => each.getName() === joint);
  const way = [...above.slice(0, at).toReversed(), node];
  const matrix = way.reduce((sum, each) => multiply(sum, each.getMatrix()), identity as Matrix);
  node.getParentNode()?.removeChild(node);
  node.setMatrix(matrix as mat4);
  scene.addChild(node);
}

/** Removes what nothing uses any more, from meshes down to bytes. */
function prune(document: Document): void {
  const root = document.getRoot();
  const lists = [
    () => root.listSkins(),
    () => root.listMeshes(),
    () => root.listMaterials(),
    () => root.listTextures(),
    () => root.listAccessors(),
  ];
  for (const list of lists)
    for (const property of list())
      if (property.listParents().every((parent) => parent.propertyType === PropertyType.ROOT)) remove(property);
}

/** Removes a property, and what is nobody else's. */
function remove(property: Property): void {
  if (property instanceof Mesh)
    for (const primitive of property.listPrimitives()) {
      for (const target of primitive.listTargets()) target.dispose();
      primitive.dispose();
    }
  property.dispose();
}

/** Removes a clip with its channels and samplers, so that nothing holds its numbers any more. */
export function removeClip(clip: Animation): void {
  for (const each of [...clip.listChannels(), ...clip.listSamplers()]) each.dispose();
  clip.dispose();
}

/** Writes a binary glTF file of what is used, with all bytes in one buffer. */
export async function writeModel(document: Document): Promise<Uint8Array> {
  const root = document.getRoot();
  prune(document);
  const [first, ...others] = root.listBuffers();
  const buffer = first ?? document.createBuffer();
  for (const accessor of root.listAccessors()) accessor.setBuffer(buffer);
  for (const other of others) other.dispose();
  return quietIO().writeBinary(document);
}
