import type { Document } from "@gltf-transform/core";
import { MantleError } from "../base/problem.ts";
import type { Look } from "../look/look.ts";
import { openModel } from "./open-model.ts";
import { preparePiece } from "./prepare-piece.ts";
import type { PreparedModel, PreparedPiece } from "./prepared-model.ts";
import { shownNodes } from "./shown-nodes.ts";
import { ModelSkeleton } from "./skeleton.ts";
import { Textures } from "./surface.ts";

/**
 * Prepares the figure of a look for `drawModel`: reads its models, and keeps what drawing needs.
 *
 * @param models - the bytes of the files that the look names, and of its rig's model, by their paths.
 * @throws MantleError `no-model`, `missing-model`, `unreadable-model` and `other-skeleton`, as `assembleModel` does; `bad-picture` for a texture.
 */
export async function prepareModel(look: Look, models: ReadonlyMap<string, Uint8Array>): Promise<PreparedModel> {
  const { rig, animations, scale } = look;
  if (look.skeleton === undefined)
    throw new MantleError("no-model", `The rig "${rig.id}" has no model: it is seen in pictures only.`);
  const opened = new Map<string, Document>();
  const open = async (file: string) => {
    const document = opened.get(file) ?? (await openModel(file, models));
    opened.set(file, document);
    return document;
  };
  const skeleton = new ModelSkeleton(await open(look.skeleton));
  const pieces: PreparedPiece[] = [];
  const textures = new Textures();
  for (const mesh of look.meshes) {
    const document = await open(mesh.file);
    for (const node of shownNodes(document, mesh)) {
      for (const primitive of node.getMesh()?.listPrimitives() ?? []) {
        const piece = preparePiece(primitive, node, mesh, skeleton, await textures.of(primitive));
        if (piece !== undefined) pieces.push(piece);
      }
    }
  }
  return { rig, animations, scale, skeleton, pieces };
}

/** The channels that color a model, and `""` if something has colors of its own. */
export function channelsOf({ pieces }: PreparedModel): readonly string[] {
  return [...new Set(pieces.map(({ channel }) => channel))].sort();
}
