import type { Document } from "@gltf-transform/core";
import type { ModelFile } from "./model-file.ts";

const documents = new WeakMap<ModelFile, Document>();

/** Keeps a document as a model, so that the types of the library stay out of ours. */
export function modelOf(name: string, document: Document): ModelFile {
  const model: ModelFile = { name };
  documents.set(model, document);
  return model;
}

/** The document of a model that `readModel` gave. */
export function documentOf(model: ModelFile): Document {
  const document = documents.get(model);
  if (document === undefined) throw new TypeError("This is no model of readModel.");
  return document;
}
