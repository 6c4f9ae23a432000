import {
  type Animation,
  Document,
  Logger,
  type mat4,
  Node,
  type Property,
  PropertyType,
  type Scene,
  VertexLayout,
  WebIO,
} from "@gltf-transform/core";
import { copyInto } from "./copy-properties.ts";
import { ancestors, withAncestors } from "./find-pieces.ts";
import { identity, multiply } from "./matrix.ts";

/** Reads and writes models without a word on the console; numbers of one kind lie together, as they do in memory. */
export function quietIO(): WebIO {
  return new WebIO().setLogger(new Logger(Logger.Verbosity.SILENT)).setVertexLayout(VertexLayout.SEPARATE);
}

/** What of a model a file of its own keeps. */
export interface Cut {
  /** The names of the nodes whose meshes are kept. */
  readonly nodes: ReadonlySet<string>;
  /** Whether clips are kept, and with them the whole skeleton. */
  readonly clips: boolean;
  /** The joint to whose place a mesh without a skin is brought; it hangs on it when it is worn. */
  readonly hangsOn: string | undefined;
}

/**
 * Cuts a file out of a model: the meshes that are named with all they use, the joints they follow, and the clips with the whole skeleton if they
 * are wanted. Everything else is left out; the model is not changed.
 *
 * @returns a binary glTF file.
 */
export async function cutModel(model: Document, { nodes, clips, hangsOn }: Cut): Promise<Uint8Array> {
  const from = model.getRoot();
  const shown = from.listNodes().filter((node) => node.getMesh() !== null && nodes.has(node.getName()));
  const moved = from
    .listAnimations()
    .flatMap((clip) => clip.listChannels().flatMap((each) => each.getTargetNode() ?? []));
  const whole = clips ? [...from.listSkins().flatMap((skin) => skin.listJoints()), ...moved] : [];
  const joints = withAncestors([...shown.flatMap((node) => node.getSkin()?.listJoints() ?? []), ...whole]);
  const document = new Document().setLogger(new Logger(Logger.Verbosity.SILENT));
  document.createBuffer();
  Object.assign(document.getRoot().getAsset(), from.getAsset());
  const scene = document.createScene(from.getDefaultScene()?.getName() ?? "");
  const known = new Map<Property, Property>();
  for (const joint of joints) {
    const copy = bareCopy(document, joint);
    known.set(joint, copy);
    const parent = known.get(joint.getParentNode() as Property);
    if (parent instanceof Node) parent.addChild(copy);
    else scene.addChild(copy);
  }
  for (const node of shown) wear(document, node, { scene, hangsOn, known });
  if (clips) for (const clip of from.listAnimations()) copyInto(document, clip, known);
  return writeModel(document);
}

/** A node by itself, without what it shows and what is under it. What it has not is not said, which takes most of the time. */
function bareCopy(document: Document, node: Node): Node {
  const copy = document.createNode(node.getName());
  const [translation, rotation, scale, extras] = [
    node.getTranslation(),
    node.getRotation(),
    node.getScale(),
    node.getExtras(),
  ];
  if (translation.some((value) => value !== 0)) copy.setTranslation(translation);
  if (rotation[3] !== 1) copy.setRotation(rotation);
  if (scale.some((value) => value !== 1)) copy.setScale(scale);
  return Object.keys(extras).length === 0 ? copy : copy.setExtras(extras);
}

interface Wearing {
  readonly scene: Scene;
  readonly hangsOn: string | undefined;
  readonly known: Map<Property, Property>;
}

/** Puts a node that shows a mesh into the scene: what has a skin stands where its joints do, and what hangs stands relative to its joint. */
function wear(document: Document, node: Node, { scene, hangsOn, known }: Wearing): void {
  const copy = bareCopy(document, node);
  const mesh = node.getMesh();
  if (mesh !== null) copy.setMesh(copyInto(document, mesh, known));
  copy.setWeights(node.getWeights());
  const skin = node.getSkin();
  if (skin !== null) copy.setSkin(copyInto(document, skin, known)).setMatrix(identity as mat4);
  else {
    const above = ancestors(node);
    const until = hangsOn === undefined ? above.length : above.findIndex((each) => each.getName() === hangsOn);
    const way = [...above.slice(0, until).toReversed(), node];
    copy.setMatrix(way.reduce((sum, each) => multiply(sum, each.getMatrix()), identity) as mat4);
  }
  scene.addChild(copy);
}

/** Removes a clip with its channels and samplers, so that nothing holds its numbers any more. */
export function removeClip(clip: Animation): void {
  const numbers = clip.listSamplers().flatMap((each) => [each.getInput() ?? [], each.getOutput() ?? []].flat());
  for (const each of [...clip.listChannels(), ...clip.listSamplers(), clip]) each.dispose();
  for (const each of new Set(numbers))
    if (each.listParents().every((parent) => parent.propertyType === PropertyType.ROOT)) each.dispose();
}

/** Writes a binary glTF file, with all bytes in one buffer. */
export async function writeModel(document: Document): Promise<Uint8Array> {
  const root = document.getRoot();
  const [first, ...others] = root.listBuffers();
  const buffer = first ?? document.createBuffer();
  for (const accessor of root.listAccessors()) if (accessor.getBuffer() !== buffer) accessor.setBuffer(buffer);
  for (const other of others) other.dispose();
  return quietIO().writeBinary(document);
}
