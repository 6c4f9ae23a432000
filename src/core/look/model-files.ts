import type { Catalog } from "../catalog/model/catalog.ts";
import { skeletonOf } from "./skeleton-of.ts";

/** The paths of all models that a catalog names, on whichever body. */
export function modelFiles(catalog: Catalog): ReadonlySet<string> {
  const files = new Set<string>();
  for (const body of catalog.bodies.values()) {
    const skeleton = skeletonOf(body);
    if (skeleton === undefined) continue;
    files.add(skeleton);
    for (const { meshes } of [body, ...catalog.parts.values()])
      for (const { file } of meshes) files.add(file.replaceAll("{body}", body.artName));
  }
  return files;
}
