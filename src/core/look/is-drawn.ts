import type { Body } from "../catalog/model/catalog.ts";

/** Whether a body is seen in pictures; one that has only a model is not, nor is what it wears. */
export function isDrawn({ layers, rig }: Body): boolean {
  return layers.length > 0 || rig.model === undefined;
}
