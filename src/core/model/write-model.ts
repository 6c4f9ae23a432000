import { type Document, Format, type GLTF, Logger, VertexLayout, WebIO } from "@gltf-transform/core";
import { packContainer } from "./container.ts";
import { WholeAttributes } from "./whole-attributes.ts";

/** Reads and writes models without a word on the console; numbers of one kind lie together, as they do in memory. */
export function quietIO(): WebIO {
  return new WebIO().setLogger(new Logger(Logger.Verbosity.SILENT)).setVertexLayout(VertexLayout.SEPARATE);
}

/** A model as it is written: its text, and the bytes beside it, in one buffer. */
export interface WrittenModel {
  readonly json: GLTF.IGLTF;
  readonly bytes: Uint8Array;
}

/** Writes a model, with all bytes in one buffer. Its nodes have the numbers that they have in the document. */
export async function writeModel(document: Document): Promise<WrittenModel> {
  const root = document.getRoot();
  const [first, ...others] = root.listBuffers();
  const buffer = first ?? document.createBuffer();
  for (const accessor of root.listAccessors()) if (accessor.getBuffer() !== buffer) accessor.setBuffer(buffer);
  for (const other of others) other.dispose();
  const extension = document.createExtension(WholeAttributes);
  const io = quietIO().registerExtensions([WholeAttributes]);
  const { json, resources } = await io.writeJSON(document, { format: Format.GLB });
  extension.dispose();
  return { json, bytes: Object.values(resources)[0] ?? new Uint8Array() };
}

/** The binary glTF file of a model. */
export async function writeBinary(document: Document): Promise<Uint8Array> {
  const { json, bytes } = await writeModel(document);
  return packContainer(json, [bytes]);
}

/** Another document of the same model. */
export async function copyModel(document: Document): Promise<Document> {
  const { json, bytes } = await writeModel(document);
  return quietIO().readJSON({ json, resources: { "@glb.bin": bytes as Uint8Array<ArrayBuffer> } });
}
