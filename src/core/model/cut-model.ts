import { type Document, type GLTF, type Node, WriterContext } from "@gltf-transform/core";
import { nameId } from "../art/name-id.ts";
import { getOrInsert } from "../base/get-or-insert.ts";
import { contentHash } from "../raster/content-hash.ts";
import { bytesOfElement } from "./check-structure.ts";
import { packContainer, whole } from "./container.ts";
import { ancestors, withAncestors } from "./find-pieces.ts";
import { identity, multiply } from "./matrix.ts";
import type { WrittenModel } from "./write-model.ts";

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
 * Text is copied for text and bytes for bytes, since a figure has many files, and each would be read into a document of its own.
 *
 * @param written - the same model as it is written.
 * @returns a binary glTF file.
 */
export function cutModel(model: Document, written: WrittenModel, { nodes, clips, hangsOn }: Cut): Uint8Array {
  const root = model.getRoot();
  const numbers = new Map(root.listNodes().map((node, number) => [node, number]));
  const numberOf = (node: Node) => numbers.get(node) as number;
  const shown = root.listNodes().filter((node) => node.getMesh() !== null && nodes.has(node.getName()));
  const moved = root
    .listAnimations()
    .flatMap((clip) => clip.listChannels().flatMap((each) => each.getTargetNode() ?? []));
  const all = clips ? [...root.listSkins().flatMap((skin) => skin.listJoints()), ...moved] : [];
  const joints = withAncestors([...shown.flatMap((node) => node.getSkin()?.listJoints() ?? []), ...all]);
  const cut = new ModelCut(written);
  for (const joint of joints) {
    const parent = joint.getParentNode();
    cut.addJoint(numberOf(joint), parent === null ? undefined : numberOf(parent));
  }
  for (const node of shown) cut.addShown(numberOf(node), node.getSkin() === null ? placeOf(node, hangsOn) : undefined);
  if (clips) for (const number of root.listAnimations().keys()) cut.addClip(number);
  return cut.pack(root.getDefaultScene()?.getName() ?? "");
}

/**
 * Puts the textures of a model into files of their own, which all files that are cut from it share; equal ones are one.
 *
 * @param folder - where they go, relative to the model.
 * @returns the model that names them, and their bytes by where they are relative to it.
 */
export function withoutTextures(
  { json, bytes }: WrittenModel,
  folder: string,
): { readonly written: WrittenModel; readonly textures: ReadonlyMap<string, Uint8Array> } {
  const textures = new Map<string, Uint8Array>();
  const images = (json.images ?? []).map(({ bufferView, ...image }) => {
    if (bufferView === undefined) return image;
    const { byteOffset = 0, byteLength } = json.bufferViews?.[bufferView] ?? { byteLength: 0 };
    const own = bytes.subarray(byteOffset, byteOffset + byteLength);
    const name = [nameId(image.name ?? "") ?? "texture", contentHash(own)].join("-");
    const uri = `${folder}/${name}.${image.mimeType === "image/jpeg" ? "jpg" : "png"}`;
    textures.set(uri, own);
    return { ...image, uri };
  });
  return { written: { json: json.images === undefined ? json : { ...json, images }, bytes }, textures };
}

/** Where a node without a skin stands relative to the joint it hangs on, or in the scene. */
function placeOf(node: Node, hangsOn: string | undefined): readonly number[] {
  const above = ancestors(node);
  const until = hangsOn === undefined ? above.length : above.findIndex((each) => each.getName() === hangsOn);
  const way = [...above.slice(0, until).toReversed(), node];
  return way.reduce((sum, each) => multiply(sum, each.getMatrix()), identity);
}

/** The lists of a glTF file that have entries with numbers by which others name them. */
interface Lists {
  animations: GLTF.IAnimation[];
  accessors: GLTF.IAccessor[];
  bufferViews: GLTF.IBufferView[];
  images: GLTF.IImage[];
  materials: GLTF.IMaterial[];
  meshes: GLTF.IMesh[];
  nodes: GLTF.INode[];
  samplers: GLTF.ISampler[];
  skins: GLTF.ISkin[];
  textures: GLTF.ITexture[];
}

/** The file that is made: an entry gets its new number when something that is kept names it for the first time. */
class ModelCut {
  readonly #from: GLTF.IGLTF;
  readonly #bytes: Uint8Array;
  readonly #made: Lists = {
    animations: [],
    accessors: [],
    bufferViews: [],
    images: [],
    materials: [],
    meshes: [],
    nodes: [],
    samplers: [],
    skins: [],
    textures: [],
  };
  readonly #scene: number[] = [];
  readonly #numbers = new Map<object, number>();
  /** The bytes of each view, in pieces. */
  readonly #data: Uint8Array[][] = [];
  /** The new view of those that hold numbers of one use for several. */
  readonly #together = new Map<number, number>();

  constructor({ json, bytes }: WrittenModel) {
    this.#from = json;
    this.#bytes = bytes;
  }

  /** Adds a node by itself; what is above it was added before. */
  addJoint(number: number, parent: number | undefined): void {
    const made = this.#joint(number);
    const above = parent === undefined ? undefined : this.#made.nodes[this.#joint(parent)];
    if (above === undefined) this.#scene.push(made);
    else above.children = [...(above.children ?? []), made];
  }

  /** Adds a node with its mesh: what has a skin stands where its joints do, anything else at a place. */
  addShown(number: number, place: readonly number[] | undefined): void {
    const { name, extras, weights, mesh, skin } = this.#entry("nodes", number);
    const isElsewhere = place?.some((value, at) => value !== identity[at]) === true;
    const node: GLTF.INode = {
      ...given({ name, extras, weights }),
      ...(isElsewhere ? { matrix: [...place] } : {}),
      ...(mesh === undefined ? {} : { mesh: this.#mesh(mesh) }),
      ...(skin === undefined ? {} : { skin: this.#skin(skin) }),
    };
    this.#scene.push(this.#made.nodes.push(node) - 1);
  }

  addClip(number: number): void {
    const { samplers, channels, ...own } = this.#entry("animations", number);
    this.#made.animations.push({
      ...own,
      samplers: samplers.map((each) => ({
        ...each,
        input: this.#accessor(each.input),
        output: this.#accessor(each.output),
      })),
      channels: channels.map(({ target, ...each }) => ({
        ...each,
        target: target.node === undefined ? target : { ...target, node: this.#joint(target.node) },
      })),
    });
  }

  pack(scene: string): Uint8Array {
    const data = this.#data.flat();
    let length = 0;
    for (const view of this.#made.bufferViews) {
      view.byteOffset = length;
      length += whole(view.byteLength);
    }
    const lists = Object.entries(this.#made).filter(([, list]) => list.length > 0);
    const json = {
      asset: this.#from.asset,
      scene: 0,
      scenes: [given({ name: scene || undefined, nodes: this.#scene.length === 0 ? undefined : this.#scene })],
      ...Object.fromEntries(lists),
      ...(length === 0 ? {} : { buffers: [{ byteLength: length }] }),
    };
    return packContainer(json, data);
  }

  #joint(number: number): number {
    return this.#take("nodes", number, ({ mesh, skin, weights, children, ...own }) => own);
  }

  #mesh(number: number): number {
    return this.#take("meshes", number, ({ primitives, ...own }) => ({
      ...own,
      primitives: primitives.map(({ attributes, targets, indices, material, ...each }) => ({
        ...each,
        attributes: this.#attributes(attributes),
        ...(targets === undefined ? {} : { targets: targets.map((target) => this.#attributes(target)) }),
        ...(indices === undefined ? {} : { indices: this.#accessor(indices) }),
        ...(material === undefined ? {} : { material: this.#material(material) }),
      })),
    }));
  }

  #attributes(attributes: Readonly<Record<string, number>>): Record<string, number> {
    return Object.fromEntries(Object.entries(attributes).map(([name, number]) => [name, this.#accessor(number)]));
  }

  #skin(number: number): number {
    return this.#take("skins", number, ({ joints, skeleton, inverseBindMatrices, ...own }) => ({
      ...own,
      joints: joints.map((joint) => this.#joint(joint)),
      ...(skeleton === undefined ? {} : { skeleton: this.#joint(skeleton) }),
      ...(inverseBindMatrices === undefined ? {} : { inverseBindMatrices: this.#accessor(inverseBindMatrices) }),
    }));
  }

  #material(number: number): number {
    return this.#take("materials", number, (material) => this.#withTextures(material));
  }

  /** What a material says, with the new numbers of its textures, wherever it has them. */
  #withTextures<T extends object>(entry: T): T {
    const said = Object.entries(entry).map(([key, value]) => {
      if (typeof value !== "object" || value === null || Array.isArray(value) || key === "extras") return [key, value];
      return [
        key,
        key.endsWith("Texture") ? { ...value, index: this.#texture(value.index) } : this.#withTextures(value),
      ];
    });
    return Object.fromEntries(said);
  }

  #texture(number: number): number {
    return this.#take("textures", number, ({ source, sampler, ...own }) => ({
      ...own,
      ...(source === undefined ? {} : { source: this.#take("images", source, (each) => each) }),
      ...(sampler === undefined ? {} : { sampler: this.#take("samplers", sampler, (each) => each) }),
    }));
  }

  #accessor(number: number): number {
    return this.#take("accessors", number, (accessor) => {
      const { bufferView, byteOffset = 0, sparse, count } = accessor;
      const size = bytesOfElement(accessor);
      const own =
        bufferView === undefined ? accessor : { ...accessor, ...this.#slice(bufferView, byteOffset, count, size) };
      if (sparse === undefined) return own;
      const { indices, values } = sparse;
      const width = bytesOfElement({ type: "SCALAR", componentType: indices.componentType });
      return {
        ...own,
        sparse: {
          ...sparse,
          indices: { ...indices, ...this.#slice(indices.bufferView, indices.byteOffset ?? 0, sparse.count, width) },
          values: { ...values, ...this.#slice(values.bufferView, values.byteOffset ?? 0, sparse.count, size) },
        },
      };
    });
  }

  /** Takes over so many elements of a view. Attributes of corners have a view each; others lie together as they did. */
  #slice(number: number, offset: number, count: number, size: number): { bufferView: number; byteOffset: number } {
    const { target, byteStride } = this.#entry("bufferViews", number);
    const like = given({ target, byteStride });
    const bytes = this.#bytesOf(number).subarray(offset, offset + (byteStride ?? size) * count);
    const bufferView =
      target === WriterContext.BufferViewTarget.ARRAY_BUFFER
        ? this.#newView(like)
        : getOrInsert(this.#together, number, () => this.#newView(like));
    return { bufferView, byteOffset: this.#append(bufferView, bytes) };
  }

  #bytesOf(view: number): Uint8Array {
    const { byteOffset = 0, byteLength } = this.#entry("bufferViews", view);
    return this.#bytes.subarray(byteOffset, byteOffset + byteLength);
  }

  #newView(like: Pick<GLTF.IBufferView, "target" | "byteStride">): number {
    this.#data.push([]);
    return this.#made.bufferViews.push({ buffer: 0, byteLength: 0, ...like }) - 1;
  }

  /** Puts bytes at the end of a view, and says where they begin. */
  #append(number: number, bytes: Uint8Array): number {
    this.#data[number]?.push(bytes);
    const view = this.#made.bufferViews[number] as GLTF.IBufferView;
    const offset = whole(view.byteLength);
    view.byteLength = offset + bytes.length;
    return offset;
  }

  /** The new number of an entry, which is copied when it has none. */
  #take<L extends Exclude<keyof Lists, "bufferViews">>(
    list: L,
    number: number,
    copy: (entry: Lists[L][number]) => Lists[L][number],
  ): number {
    const entry = this.#entry(list, number);
    return getOrInsert(this.#numbers, entry, () => (this.#made[list] as object[]).push(copy(entry)) - 1);
  }

  #entry<L extends keyof Lists>(list: L, number: number): Lists[L][number] {
    return (this.#from[list] as Lists[L])[number] as Lists[L][number];
  }
}

/** What is said, without what is not. */
function given<T extends object>(entry: T): { [K in keyof T]: Exclude<T[K], undefined> } {
  return Object.fromEntries(Object.entries(entry).filter(([, value]) => value !== undefined)) as never;
}
