import type { Accessor, Material, Primitive, Texture } from "@gltf-transform/core";
import { byteOf } from "../base/color/color.ts";
import { limits } from "../base/limits.ts";
import { MantleError } from "../base/problem.ts";
import type { Image } from "../raster/image.ts";
import { isSigned } from "../raster/png/chunks.ts";
import { decodePng } from "../raster/png/decode-png.ts";
import { numbersOf } from "./numbers.ts";
import type { Beyond, PieceTexture, PreparedPiece } from "./prepared-model.ts";

/** How glTF 2.0 (§5.26) numbers them. */
const beyonds: Readonly<Record<number, Beyond>> = { 10497: "again", 33648: "mirrored", 33071: "edge" };

/** The textures of models, each decoded once. */
export class Textures {
  readonly #images = new Map<Texture, Promise<Image | undefined>>();

  /** The base color texture of a primitive; none where it has none, or one that is neither a PNG nor a JPEG. */
  async of(primitive: Primitive): Promise<PieceTexture | undefined> {
    const material = primitive.getMaterial();
    const [texture, info] = [material?.getBaseColorTexture(), material?.getBaseColorTextureInfo()];
    const coordinates = primitive.getAttribute(`TEXCOORD_${info?.getTexCoord() ?? 0}`);
    if (!texture || !info || coordinates === null) return undefined;
    const reading = this.#images.get(texture) ?? decode(texture.getImage() ?? new Uint8Array());
    this.#images.set(texture, reading);
    const image = await reading;
    const beyond = (wrap: number) => beyonds[wrap] ?? "again";
    return (
      image && {
        image,
        coordinates: Float32Array.from(numbersOf(coordinates)),
        beyond: [beyond(info.getWrapS()), beyond(info.getWrapT())],
      }
    );
  }
}

async function decode(bytes: Uint8Array): Promise<Image | undefined> {
  if (isSigned(bytes)) return decodePng(bytes);
  const isJpeg = bytes[0] === 0xff && bytes[1] === 0xd8;
  if (!isJpeg) return undefined;
  const { decode: decodeJpeg } = await import("jpeg-js");
  try {
    const { width, height, data } = decodeJpeg(bytes, {
      useTArray: true,
      maxResolutionInMP: limits.pixels / 1e6,
      maxMemoryUsageInMB: 1024,
    });
    return { width, height, data: new Uint8ClampedArray(data.buffer, data.byteOffset, data.byteLength) };
  } catch (error) {
    const reason = error instanceof Error ? error.message : String(error);
    throw new MantleError("bad-picture", `This is no JPEG that can be read: ${reason}.`);
  }
}

/** Where the pixel of a texture begins that a triangle has at a place with so much of its first corner, and of its second. */
export function texelAt(
  { coordinates, image, beyond: [across, down] }: PieceTexture,
  one: number,
  two: number,
  three: number,
  u: number,
  v: number,
): number {
  const w = 1 - u - v;
  const s =
    u * (coordinates[one * 2] as number) +
    v * (coordinates[two * 2] as number) +
    w * (coordinates[three * 2] as number);
  const t =
    u * (coordinates[one * 2 + 1] as number) +
    v * (coordinates[two * 2 + 1] as number) +
    w * (coordinates[three * 2 + 1] as number);
  return (pixelAt(t, image.height, down) * image.width + pixelAt(s, image.width, across)) * 4;
}

function pixelAt(share: number, size: number, beyond: Beyond): number {
  let within = beyond === "edge" ? Math.min(1, Math.max(0, share)) : share - Math.floor(share);
  if (beyond === "mirrored" && Math.floor(share) % 2 !== 0) within = 1 - within;
  return Math.min(size - 1, Math.floor(within * size));
}

/** How opaque a place of a material has to be to be seen; `undefined` for one that is opaque everywhere. What is seen is opaque. */
export function cutoffOf(material: Material | null): number | undefined {
  if (material === null || material.getAlphaMode() === "OPAQUE") return undefined;
  const cutoff = material.getAlphaMode() === "MASK" ? material.getAlphaCutoff() : 0.5;
  return cutoff / Math.max(material.getAlpha(), 1e-6);
}

/** What the colors of corners say: gray ones how open each lies; others what color its light has. */
export function cornerColors(color: Accessor | null): Pick<PreparedPiece, "openness" | "tint"> {
  if (color === null) return { openness: undefined, tint: undefined };
  const [all, size, count] = [numbersOf(color), color.getElementSize(), color.getCount()];
  const openness = new Float32Array(count);
  const tint = new Float32Array(count * 3);
  let isGray = true;
  for (let corner = 0; corner < count; corner += 1) {
    const [red = 1, green = 1, blue = 1] = [0, 1, 2].map((channel) => all[corner * size + channel]);
    isGray &&= red === green && red === blue;
    openness[corner] = red;
    tint.set(
      [red, green, blue].map((light) => byteOf(light) / 255),
      corner * 3,
    );
  }
  return isGray ? { openness, tint: undefined } : { openness: undefined, tint };
}
