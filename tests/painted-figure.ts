import { type Accessor, type Document, type Material, NodeIO, type Primitive } from "@gltf-transform/core";
import { encode } from "jpeg-js";
import { encodePng } from "zealous-mantle/raster";

/** A picture whose left half has one color, and whose right half another. */
function halves(left: readonly number[], right: readonly number[]) {
  const data = Array.from({ length: 256 }, (_, at) => (at % 16 < 8 ? left : right)).flat();
  return { width: 16, height: 16, data: Uint8ClampedArray.from(data) };
}

const red = [255, 0, 0, 255];
const blue = [0, 0, 255, 255];
const clear = [0, 0, 0, 0];

/**
 * A figure whose coat and boots have a JPEG together, whose hair has a PNG with holes, and whose head has colors of its corners. Corners at the
 * left have the left half of a picture.
 */
export async function paintedFigure(bytes: Uint8Array): Promise<Uint8Array> {
  const document = await new NodeIO().readBinary(bytes);
  const jpeg = new Uint8Array(encode(halves(red, blue), 95).data);
  const cloth = document.createTexture("Coat Cloth").setImage(jpeg).setMimeType("image/jpeg");
  const strands = document
    .createTexture("strands")
    .setImage(encodePng(halves(clear, blue)))
    .setMimeType("image/png");
  for (const primitive of primitivesOf(document, "Coat", "Boots")) {
    place(document, primitive);
    asItIs(primitive.getMaterial()?.setBaseColorTexture(cloth));
  }
  for (const primitive of primitivesOf(document, "Hair")) {
    place(document, primitive);
    asItIs(primitive.getMaterial()?.setBaseColorTexture(strands).setAlphaMode("MASK"));
  }
  for (const primitive of primitivesOf(document, "Body Head")) {
    const green = each(primitive, 3, () => [0, 1, 0]);
    primitive.setAttribute("COLOR_0", numbers(document, "VEC3", green));
  }
  return new NodeIO().writeBinary(document);
}

/** A texture with no color over it, whose pixels are not mixed with those beside them. */
function asItIs(material: Material | null | undefined): void {
  material?.setBaseColorFactor([1, 1, 1, 1]).getBaseColorTextureInfo()?.setMagFilter(9728).setMinFilter(9728);
}

function primitivesOf(document: Document, ...names: readonly string[]): readonly Primitive[] {
  const nodes = document.getRoot().listNodes();
  return nodes
    .filter((node) => names.includes(node.getName()))
    .flatMap((node) => node.getMesh()?.listPrimitives() ?? []);
}

/** Places all of a mesh in a picture as it is seen from before. */
function place(document: Document, primitive: Primitive): void {
  const at = each(primitive, 2, ([x = 0, y = 0]) => [x < 0 ? 0.25 : 0.75, y]);
  primitive.setAttribute("TEXCOORD_0", numbers(document, "VEC2", at));
}

function each(primitive: Primitive, size: number, of: (corner: readonly number[]) => readonly number[]) {
  const position = primitive.getAttribute("POSITION");
  const corners = Array.from({ length: position?.getCount() ?? 0 }, (_, at) => position?.getElement(at, []) ?? []);
  const made = new Float32Array(corners.length * size);
  for (const [number, corner] of corners.entries()) made.set(of(corner), number * size);
  return made;
}

function numbers(document: Document, type: "VEC2" | "VEC3", array: Float32Array<ArrayBuffer>): Accessor {
  const [buffer = null] = document.getRoot().listBuffers();
  return document.createAccessor().setType(type).setArray(array).setBuffer(buffer);
}
