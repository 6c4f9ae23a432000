import {
  type Animation,
  type Document,
  type Material,
  type Node,
  type Property,
  PropertyType,
  type Skin,
  type Texture,
} from "@gltf-transform/core";
import { formatColor, toLinear } from "../base/color/color.ts";
import { getOrInsert } from "../base/get-or-insert.ts";
import { MantleError } from "../base/problem.ts";
import type { Look, LookMesh } from "../look/look.ts";
import { contentHash } from "../raster/content-hash.ts";
import { copyInto } from "./copy-properties.ts";
import { joinMeshes } from "./join-meshes.ts";
import { lacksJoint } from "./lacks-joint.ts";
import { openModel } from "./open-model.ts";
import { standsFor } from "./shading.ts";
import { shownNodes } from "./shown-nodes.ts";
import { writeBinary } from "./write-model.ts";

/** A figure in one file. */
export interface AssembledModel {
  /** A binary glTF file: one skeleton, and only the meshes, textures and clips that are used. */
  readonly bytes: Uint8Array;
  /** Made of its content: equal figures have equal names. */
  readonly name: string;
}

export interface AssembleOptions {
  /** The animations whose clips are kept. @defaultValue all of the rig */
  readonly animations?: readonly string[];
  /**
   * Joins all meshes into one with one material, for engines that draw many figures: its colors are pixels of a picture, a ramp in each row.
   *
   * @defaultValue false
   */
  readonly joined?: boolean;
}

/**
 * Assembles the figure of a look: every mesh on one skeleton, in the colors of the look. The same look gives the same bytes, for every
 * program that reads glTF 2.0.
 *
 * A channel colors a material by the middle of its ramp, and the whole ramp is in the `extras` of the material, for shaders that step
 * through its tones.
 *
 * @param models - the bytes of the files that the look names, and of its rig's model, by their paths.
 * @throws MantleError `no-model` for a look whose rig has none, `missing-model` for a file that was not handed in, `unreadable-model`,
 * and `other-skeleton` for a mesh with joints that the rig does not have.
 * @example
 * const { bytes, name } = await assembleModel(resolveLook(catalog, wren), models)
 */
export async function assembleModel(
  look: Look,
  models: ReadonlyMap<string, Uint8Array>,
  { animations = [...look.rig.animations.keys()], joined = false }: AssembleOptions = {},
): Promise<AssembledModel> {
  const { model } = look.rig;
  if (model === undefined || look.skeleton === undefined)
    throw new MantleError("no-model", `The rig "${look.rig.id}" has no model: it is seen in pictures only.`);
  const document = await openModel(look.skeleton, models);
  const wanted = new Set(animations.map((id) => model.clips.get(id) ?? id));
  for (const clip of document.getRoot().listAnimations()) if (!wanted.has(clip.getName())) removeClip(clip);
  const figure = new AssembledFigure(document);
  const sources = new Map<string, Source>();
  for (const mesh of look.meshes) {
    const { file } = mesh;
    const source = sources.get(file) ?? { document: await openModel(file, models), known: new Map() };
    sources.set(file, source);
    figure.add(mesh, source);
  }
  figure.scale(look.scale);
  if (joined) joinMeshes(document);
  shareTextures(document);
  const bytes = await writeBinary(document);
  return {
    bytes,
    get name() {
      return contentHash(bytes);
    },
  };
}

/** A file, and what was copied of it. */
interface Source {
  readonly document: Document;
  readonly known: Map<Property, Property>;
}

class AssembledFigure {
  readonly #document: Document;
  readonly #joints: ReadonlyMap<string, Node>;
  /** Skins of the same joints in the same pose are one. */
  readonly #skins = new Map<string, Skin>();

  constructor(document: Document) {
    this.#document = document;
    this.#joints = new Map(
      document
        .getRoot()
        .listNodes()
        .map((node) => [node.getName(), node]),
    );
  }

  add(mesh: LookMesh, { document, known }: Source): void {
    for (const node of shownNodes(document, mesh)) {
      const own = node.getMesh();
      if (own === null) continue;
      // In other colors it has materials of its own.
      const colored = new Map(known);
      for (const material of materialsOf(node)) if (mesh.recolors.size > 0) colored.delete(material);
      if (mesh.recolors.size > 0) {
        colored.delete(own);
        for (const primitive of own.listPrimitives()) colored.delete(primitive);
      }
      const copy = this.#document.createNode(node.getName()).setMesh(copyInto(this.#document, own, colored));
      for (const material of materialsOf(copy)) recolor(material, mesh.recolors);
      for (const [from, to] of colored) if (!known.has(from)) known.set(from, to);
      const skin = node.getSkin();
      if (skin !== null && mesh.attach === undefined) {
        copy.setSkin(this.#skinLike(skin, mesh.file, known));
        this.#scene().addChild(copy);
      } else this.#hang(copy, node, mesh);
    }
  }

  /** Puts all of it on a node that is so large. */
  scale(by: number): void {
    if (by === 1) return;
    const scene = this.#scene();
    const large = this.#document.createNode("scale").setScale([by, by, by]);
    for (const child of scene.listChildren()) large.addChild(child);
    scene.addChild(large);
  }

  #skinLike(skin: Skin, file: string, known: Map<Property, Property>): Skin {
    const joints = skin.listJoints().map((joint) => this.#joint(joint.getName(), file));
    const matrices = skin.getInverseBindMatrices();
    const key = [...joints.map((joint) => joint.getName()), matrices?.getArray()?.join()].join("|");
    return getOrInsert(this.#skins, key, () => {
      const made = this.#document.createSkin(skin.getName());
      for (const joint of joints) made.addJoint(joint);
      if (matrices !== null) made.setInverseBindMatrices(copyInto(this.#document, matrices, known));
      return made;
    });
  }

  /** Hangs a mesh on its joint, as far from it as the point and the file say. */
  #hang(copy: Node, node: Node, { attach, file }: LookMesh): void {
    copy.setMatrix(node.getMatrix());
    if (attach === undefined) {
      this.#scene().addChild(copy);
      return;
    }
    const joint = this.#joint(attach.joint, file);
    const isThere = attach.offset.every((value) => value === 0);
    const place = isThere
      ? joint
      : this.#document.createNode(`${copy.getName()} place`).setTranslation([...attach.offset]);
    if (!isThere) joint.addChild(place);
    place.addChild(copy);
  }

  #joint(name: string, file: string): Node {
    const joint = this.#joints.get(name);
    if (joint !== undefined) return joint;
    throw lacksJoint(file, name);
  }

  #scene(): ReturnType<Document["createScene"]> {
    const root = this.#document.getRoot();
    return root.getDefaultScene() ?? root.listScenes()[0] ?? this.#document.createScene();
  }
}

/** Removes a clip with its channels and samplers, so that nothing holds its numbers any more. */
function removeClip(clip: Animation): void {
  const numbers = clip.listSamplers().flatMap((each) => [each.getInput() ?? [], each.getOutput() ?? []].flat());
  for (const each of [...clip.listChannels(), ...clip.listSamplers(), clip]) each.dispose();
  for (const each of new Set(numbers))
    if (each.listParents().every((parent) => parent.propertyType === PropertyType.ROOT)) each.dispose();
}

/** Pictures of the same bytes, that came with several files, are one. */
function shareTextures(document: Document): void {
  const known = new Map<string, Texture>();
  for (const texture of document.getRoot().listTextures()) {
    const name = contentHash(texture.getImage() ?? new Uint8Array());
    const same = known.get(name);
    if (same === undefined) {
      known.set(name, texture);
      continue;
    }
    for (const parent of texture.listParents()) if (parent !== document.getRoot()) parent.swap(texture, same);
    texture.dispose();
  }
}

function materialsOf(node: Node): ReadonlySet<Material> {
  return new Set(
    node
      .getMesh()
      ?.listPrimitives()
      .flatMap((primitive) => primitive.getMaterial() ?? []),
  );
}

/** Gives a material the color that stands for a ramp, and the ramp itself besides. */
function recolor(material: Material, recolors: LookMesh["recolors"]): void {
  const found = recolors.get(material.getName()) ?? recolors.get("");
  if (found === undefined) return;
  const [, , , alpha] = material.getBaseColorFactor();
  material.setBaseColorFactor([...toLinear(standsFor(found.colors, material.getExtras())), alpha]);
  const ramp = found.colors.map(formatColor);
  material.setExtras({ ...material.getExtras(), channel: found.channel, ramp });
}
