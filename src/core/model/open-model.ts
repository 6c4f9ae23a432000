import type { Document } from "@gltf-transform/core";
import { MantleError } from "../base/problem.ts";
import { besideModel } from "./beside-model.ts";
import { documentOf } from "./documents.ts";
import { externalFiles } from "./external-files.ts";
import { readModel } from "./read-model.ts";

/** Opens a model that was handed in, with the files that it names. @throws MantleError `missing-model`, `unreadable-model`. */
export async function openModel(file: string, models: ReadonlyMap<string, Uint8Array>): Promise<Document> {
  const bytes = models.get(file);
  if (bytes === undefined) throw new MantleError("missing-model", `The file ${file} was not handed in.`);
  const resources = new Map<string, Uint8Array>();
  for (const uri of externalFiles(bytes)) {
    const path = besideModel(file, uri);
    const resource = models.get(path);
    if (resource === undefined)
      throw new MantleError("missing-model", `The file ${path} was not handed in. ${file} needs it.`);
    resources.set(uri, resource);
  }
  const { model, problems } = await readModel(file, bytes, resources);
  if (model !== undefined) return documentOf(model);
  throw new MantleError("unreadable-model", `${file} is no model that can be read.`, problems);
}
