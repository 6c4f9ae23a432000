/** What a thread of the server does: draws a picture. It loads the catalog once. */

import { workerData } from "piscina";
import { createCharacter, drawCrop, enlargeImage, MantleError, resolveLook } from "zealous-mantle";
import { bakeSheet, encodePng } from "zealous-mantle/authoring";
import { loadCatalog, loadImages } from "zealous-mantle/node";
import { readSharedLook } from "zealous-mantle/share";
import { type PictureOrder, scales } from "./picture-kinds.ts";

const { folder } = workerData as { readonly folder: string };
const catalog = loadCatalog(folder);

/** Draws a picture. @returns the bytes of a PNG. */
export async function drawPicture({ kind, code }: PictureOrder): Promise<Uint8Array> {
  const known = await catalog;
  const { look: likeness } = readSharedLook(known, code);
  if (likeness === undefined) throw new MantleError("bad-call", "This is the code of no look.");
  const { body = [...known.bodies.keys()][0] ?? "", loadout, colors } = likeness;
  const look = resolveLook(known, { ...createCharacter(known, { body }), loadout, colors });
  const images = await loadImages(folder, [look]);
  if (kind === "sheet") return encodePng(bakeSheet(look, images).image);
  return encodePng(enlargeImage(drawCrop(look, images, kind), scales[kind]));
}
