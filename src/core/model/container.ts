import { type Message, message } from "../base/message.ts";
import type { Json } from "./check-structure.ts";

/** What a glTF file holds: its text, and the bytes that a binary file has beside it. */
export interface Container {
  readonly json: Json;
  readonly binary: Uint8Array | undefined;
}

declare const TextDecoder: new (label: string, options: { fatal: boolean }) => { decode(bytes: Uint8Array): string };
declare const TextEncoder: new () => { encode(text: string): Uint8Array };

const glb = 0x46546c67;
const jsonChunk = 0x4e4f534a;
const binaryChunk = 0x004e4942;
const space = 0x20;

/** Opens the container of a binary file (glTF 2.0, §4), or reads a text. */
export function openContainer(bytes: Uint8Array): Container | Message<"model-no-gltf" | "model-container"> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const isBinary = bytes.length >= 20 && view.getUint32(0, true) === glb;
  if (!isBinary) return parse(bytes, undefined);
  if (view.getUint32(4, true) !== 2 || view.getUint32(8, true) > bytes.length) return message("model-container");
  let [text, binary]: (Uint8Array | undefined)[] = [];
  for (let at = 12; at + 8 <= bytes.length; ) {
    const [length, type] = [view.getUint32(at, true), view.getUint32(at + 4, true)];
    if (at + 8 + length > bytes.length) return message("model-container");
    const chunk = bytes.subarray(at + 8, at + 8 + length);
    if (type === jsonChunk) text ??= chunk;
    if (type === binaryChunk) binary ??= chunk;
    at += 8 + length;
  }
  return text === undefined ? message("model-container") : parse(text, binary);
}

function parse(text: Uint8Array, binary: Uint8Array | undefined): Container | Message<"model-no-gltf"> {
  try {
    const json: unknown = JSON.parse(new TextDecoder("utf-8", { fatal: true }).decode(text));
    const version: unknown = Object(Object(json).asset).version;
    return typeof version === "string" && /^2\.\d+$/.test(version)
      ? { json: json as Json, binary }
      : message("model-no-gltf");
  } catch {
    return message("model-no-gltf");
  }
}

/**
 * Packs a binary file.
 *
 * @param data - the bytes beside the text, in pieces that lie one behind the other, each at a multiple of four.
 */
export function packContainer(json: object, data: readonly Uint8Array[]): Uint8Array {
  const text = new TextEncoder().encode(JSON.stringify(json));
  const size = data.reduce((sum, piece) => sum + whole(piece.length), 0);
  const bytes = new Uint8Array(20 + whole(text.length) + (size === 0 ? 0 : 8 + size));
  const view = new DataView(bytes.buffer);
  const say = (at: number, values: readonly number[]) => {
    for (const [number, value] of values.entries()) view.setUint32(at + number * 4, value, true);
  };
  say(0, [glb, 2, bytes.length, whole(text.length), jsonChunk]);
  bytes.fill(space, 20 + text.length, 20 + whole(text.length));
  bytes.set(text, 20);
  let at = 20 + whole(text.length);
  if (size === 0) return bytes;
  say(at, [size, binaryChunk]);
  at += 8;
  for (const piece of data) {
    bytes.set(piece, at);
    at += whole(piece.length);
  }
  return bytes;
}

/** So many bytes, up to the next multiple of four. */
export function whole(bytes: number): number {
  return Math.ceil(bytes / 4) * 4;
}
