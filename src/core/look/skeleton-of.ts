import type { Body } from "../catalog/model/catalog.ts";

/** Path of the glTF file with the skeleton of a body; `undefined` on a rig that has no model. */
export function skeletonOf({ rig, artName }: Body): string | undefined {
  return rig.model?.file.replaceAll("{body}", artName);
}
