import type { Document, Node } from "@gltf-transform/core";
import { MantleError } from "../base/problem.ts";
import type { LookMesh } from "../look/look.ts";

/** The nodes of a file that a mesh of a look shows. @throws MantleError `missing-model` where there is none. */
export function shownNodes(document: Document, { file, node: name }: LookMesh): readonly Node[] {
  const nodes = document
    .getRoot()
    .listNodes()
    .filter((node) => node.getMesh() !== null && (name === undefined || node.getName() === name));
  if (nodes.length > 0) return nodes;
  throw new MantleError("missing-model", `The file ${file} has no mesh${name === undefined ? "" : ` "${name}"`}.`);
}
