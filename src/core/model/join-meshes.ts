import {
  type Accessor,
  type Document,
  type Material,
  type Node,
  type Primitive,
  PropertyType,
  type vec3,
} from "@gltf-transform/core";
import { byteOf, parseColor } from "../base/color/color.ts";
import { getOrInsert } from "../base/get-or-insert.ts";
import { createImage } from "../raster/image.ts";
import { encodePng } from "../raster/png/encode-png.ts";
import { identity, type Matrix } from "./matrix.ts";
import { numbersOf } from "./numbers.ts";

/**
 * Joins the meshes of a figure into one with one skin and one material, so that an engine draws it in one call. Colors are pixels of one picture: a
 * row for each material, with its ramp from dark to light where it has one, so that shaders can step along the row.
 *
 * What hangs on a joint is bound to it alone. Meshes with textures of their own stay as they are, and what one sees through.
 */
export function joinMeshes(document: Document): void {
  const root = document.getRoot();
  const nodes = root.listNodes().filter((node) => node.getMesh() !== null && isPlain(node));
  const joined = new Joined(document);
  for (const node of nodes) for (const primitive of node.getMesh()?.listPrimitives() ?? []) joined.add(node, primitive);
  if (nodes.length === 0) return;
  joined.write(root.getDefaultScene() ?? root.listScenes()[0] ?? document.createScene());
  for (const node of nodes) {
    for (const primitive of node.getMesh()?.listPrimitives() ?? []) primitive.dispose();
    node.getMesh()?.dispose();
    // What stands by itself is a joint now.
    if (node.getParentNode() !== null || node.getSkin() !== null) node.dispose();
  }
  // What nobody uses any more goes, and what only that used.
  for (const kind of [root.listSkins(), root.listMaterials(), root.listAccessors()])
    for (const each of kind)
      if (each.listParents().every((parent) => parent.propertyType === PropertyType.ROOT)) each.dispose();
}

function isPlain(node: Node): boolean {
  return (node.getMesh()?.listPrimitives() ?? []).every(
    (primitive) =>
      primitive.getMode() === 4 && isPlainColor(primitive.getMaterial()) && primitive.listTargets().length === 0,
  );
}

/** Whether a material is a color that is opaque, and nothing more. */
function isPlainColor(material: Material | null): boolean {
  if (material === null) return true;
  const textures = [
    material.getBaseColorTexture(),
    material.getEmissiveTexture(),
    material.getNormalTexture(),
    material.getOcclusionTexture(),
    material.getMetallicRoughnessTexture(),
  ];
  return textures.every((texture) => texture === null) && material.getAlphaMode() === "OPAQUE";
}

class Joined {
  readonly #document: Document;
  readonly #positions: number[] = [];
  readonly #normals: number[] = [];
  readonly #colors: number[] = [];
  readonly #places: number[] = [];
  readonly #joints: number[] = [];
  readonly #weights: number[] = [];
  readonly #triangles: number[] = [];
  /** Joints with what binds to them, by both. */
  readonly #binds = new Map<string, { readonly number: number; readonly joint: Node; readonly bind: Matrix }>();
  readonly #rows = new Map<Material | null, number>();
  #isDoubleSided = false;

  constructor(document: Document) {
    this.#document = document;
  }

  add(node: Node, primitive: Primitive): void {
    const position = primitive.getAttribute("POSITION");
    if (position === null) return;
    const [count, first] = [position.getCount(), this.#positions.length / 3];
    push(this.#positions, numbersOf(position));
    push(
      this.#normals,
      all(primitive.getAttribute("NORMAL"), count * 3, () => 0),
    );
    const color = primitive.getAttribute("COLOR_0");
    const size = color?.getElementSize() ?? 4;
    const colors = all(color, count * size, () => 1);
    const row = getOrInsert(this.#rows, primitive.getMaterial(), () => this.#rows.size);
    this.#isDoubleSided ||= primitive.getMaterial()?.getDoubleSided() ?? false;
    for (let corner = 0; corner < count; corner += 1) {
      for (let channel = 0; channel < 4; channel += 1)
        this.#colors.push(Math.round((channel < size ? (colors[corner * size + channel] as number) : 1) * 255));
      // The picture is not known yet: its row stands for the place.
      this.#places.push(row);
    }
    this.#bind(node, primitive, count);
    const indices = primitive.getIndices();
    const list = indices === null ? Array.from({ length: count }, (_, at) => at) : numbersOf(indices);
    for (let at = 0; at < list.length; at += 1) this.#triangles.push((list[at] as number) + first);
  }

  #bind(node: Node, primitive: Primitive, count: number): void {
    const skin = node.getSkin();
    const [joints, weights] = [primitive.getAttribute("JOINTS_0"), primitive.getAttribute("WEIGHTS_0")];
    if (skin === null || joints === null || weights === null) {
      const joint = node.getParentNode();
      const number = this.#numberOf(joint ?? node, joint === null ? identity : node.getMatrix());
      for (let corner = 0; corner < count; corner += 1) {
        this.#joints.push(number, 0, 0, 0);
        this.#weights.push(1, 0, 0, 0);
      }
      return;
    }
    const matrices = skin.getInverseBindMatrices();
    const numbers = skin
      .listJoints()
      .map((joint, at) => this.#numberOf(joint, matrices?.getElement(at, []) ?? identity));
    const [followed, shares] = [numbersOf(joints), numbersOf(weights)];
    for (let at = 0; at < count * 4; at += 1) {
      this.#joints.push((shares[at] as number) > 0 ? (numbers[followed[at] as number] ?? 0) : 0);
      this.#weights.push(shares[at] as number);
    }
  }

  #numberOf(joint: Node, bind: Matrix): number {
    const key = [joint.getName(), ...bind].join();
    return getOrInsert(this.#binds, key, () => ({ number: this.#binds.size, joint: this.#free(joint), bind })).number;
  }

  /** A skin has each joint once: where something else binds to one, it binds to a place on it. */
  #free(joint: Node): Node {
    if ([...this.#binds.values()].every((other) => other.joint !== joint)) return joint;
    const place = this.#document.createNode(`${joint.getName()} ${this.#binds.size}`);
    joint.addChild(place);
    return place;
  }

  write(scene: ReturnType<Document["createScene"]>): void {
    const document = this.#document;
    const [buffer = document.createBuffer()] = document.getRoot().listBuffers();
    const accessor = (type: Parameters<Accessor["setType"]>[0], array: Parameters<Accessor["setArray"]>[0]) =>
      document.createAccessor().setType(type).setArray(array).setBuffer(buffer);
    const skin = document.createSkin("figure");
    for (const { joint } of this.#binds.values()) skin.addJoint(joint);
    skin.setInverseBindMatrices(
      accessor("MAT4", Float32Array.from([...this.#binds.values()].flatMap(({ bind }) => [...bind]))),
    );
    const { material, columns } = this.#material();
    const places = this.#places.flatMap((row) => [((columns[row] ?? 0) + 0.5) / width, (row + 0.5) / this.#rows.size]);
    const primitive = document
      .createPrimitive()
      .setMaterial(material)
      .setIndices(accessor("SCALAR", Uint32Array.from(this.#triangles)))
      .setAttribute("POSITION", accessor("VEC3", Float32Array.from(this.#positions)))
      .setAttribute("NORMAL", accessor("VEC3", Float32Array.from(this.#normals)))
      .setAttribute("COLOR_0", accessor("VEC4", Uint8Array.from(this.#colors)).setNormalized(true))
      .setAttribute("TEXCOORD_0", accessor("VEC2", Float32Array.from(places)))
      .setAttribute("JOINTS_0", accessor("VEC4", Uint16Array.from(this.#joints)))
      .setAttribute("WEIGHTS_0", accessor("VEC4", Float32Array.from(this.#weights)));
    const mesh = document.createMesh("figure").addPrimitive(primitive);
    scene.addChild(document.createNode("figure").setMesh(mesh).setSkin(skin));
  }

  /** One material, whose picture has the color of each in a row; and the column in which that lies. */
  #material(): { readonly material: Material; readonly columns: readonly number[] } {
    const [colors, shines] = [0, 1].map(() => createImage(width, this.#rows.size)) as [
      ReturnType<typeof createImage>,
      ReturnType<typeof createImage>,
    ];
    const columns: number[] = [];
    for (const [own, row] of this.#rows) {
      const ramp = rampOf(own);
      const plain = bytesOf(own?.getBaseColorFactor() ?? [1, 1, 1, 1]);
      columns[row] = Math.max(0, ramp.indexOf(plain));
      const shine = bytesOf(own?.getEmissiveFactor() ?? [0, 0, 0]);
      for (let column = 0; column < width; column += 1) {
        paint(colors, column, row, ramp.includes(plain) ? (ramp[Math.min(column, ramp.length - 1)] ?? plain) : plain);
        paint(shines, column, row, shine);
      }
    }
    const picture = (name: string, image: typeof colors) =>
      this.#document.createTexture(name).setImage(encodePng(image)).setMimeType("image/png");
    const material = this.#document
      .createMaterial("figure")
      .setMetallicFactor(0)
      .setRoughnessFactor(0.9)
      .setDoubleSided(this.#isDoubleSided);
    material.setBaseColorTexture(picture("ramps", colors));
    const infos = [material.getBaseColorTextureInfo()];
    if ([...this.#rows.keys()].some((own) => own?.getEmissiveFactor().some((light) => light > 0))) {
      material.setEmissiveTexture(picture("shine", shines)).setEmissiveFactor([1, 1, 1] as vec3);
      infos.push(material.getEmissiveTextureInfo());
    }
    for (const info of infos) info?.setMagFilter(nearest).setMinFilter(nearest);
    return { material, columns };
  }
}

/** A pixel of a picture as it is, and not between others (glTF 2.0, §5.26.1). */
const nearest = 9728;

/** Columns of the picture: the longest ramps of most games. */
const width = 8;

function rampOf(material: Material | null): readonly number[] {
  const { ramp } = (material?.getExtras() ?? {}) as { ramp?: unknown };
  return Array.isArray(ramp)
    ? ramp.flatMap((color) => (typeof color === "string" ? (parseColor(color) ?? []) : [])).slice(0, width)
    : [];
}

function bytesOf(light: readonly number[]): number {
  return light.slice(0, 3).reduce((sum, value) => (sum << 8) + byteOf(value), 0);
}

function paint({ data, width: across }: ReturnType<typeof createImage>, x: number, y: number, color: number): void {
  data.set([color >> 16, (color >> 8) & 255, color & 255, 255], (y * across + x) * 4);
}

function all(accessor: Accessor | null, count: number, missing: () => number): ArrayLike<number> {
  return accessor === null ? Array.from({ length: count }, missing) : numbersOf(accessor);
}

function push(to: number[], from: ArrayLike<number>): void {
  for (let at = 0; at < from.length; at += 1) to.push(from[at] as number);
}
