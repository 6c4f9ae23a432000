import type { Document } from "@gltf-transform/core";
import { MantleError } from "../base/problem.ts";
import { documentOf } from "./documents.ts";
import { readModel } from "./read-model.ts";

/** Opens a model that was handed in. @throws MantleError `missing-model`, `unreadable-model`. */
export async function openModel(file: string, models: ReadonlyMap<string, Uint8Array>): Promise<Document> {
  const bytes = models.get(file);
  if (bytes === undefined) throw new MantleError("missing-model", `The file ${file} was not handed in.`);
  const { model, problems } = await readModel(file, bytes);
  if (model !== undefined) return documentOf(model);
  throw new MantleError("unreadable-model", `${file} is no model that can be read.`, problems);
}
