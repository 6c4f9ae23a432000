/** What a thread of the server does: draws a picture. It loads the catalog once. */

import { LRUCache } from "lru-cache";
import { workerData } from "piscina";
import {
  createCharacter,
  drawCrop,
  type Image,
  type Look,
  MantleError,
  readSharedLook,
  resolveLook,
} from "zealous-mantle";
import { loadCatalog, loadImages } from "zealous-mantle/node";
import { bakeSheet, encodePng, enlargeImage } from "zealous-mantle/raster";
import { type PictureOrder, scales } from "./picture-kinds.ts";

const { folder } = workerData as { readonly folder: string };
const catalog = loadCatalog(folder);
/** Reading a picture takes longer than drawing with it; those that were asked for last are kept. */
const kept = new LRUCache<string, Image>({ max: 160 });

/** Draws a picture. @returns the bytes of a PNG. */
export async function drawPicture({ kind, code }: PictureOrder): Promise<Uint8Array> {
  const known = await catalog;
  const { look: likeness } = readSharedLook(known, code);
  if (likeness === undefined) throw new MantleError("bad-call", "This is the code of no look.");
  const { body = [...known.bodies.keys()][0] ?? "", loadout, colors } = likeness;
  const look = resolveLook(known, { ...createCharacter(known, { body }), loadout, colors });
  const images = await loadImages(folder, [look], knownOf(look));
  for (const [path, image] of images) kept.set(path, image);
  if (kind === "sheet") return encodePng(bakeSheet(look, images).image);
  return encodePng(enlargeImage(drawCrop(look, images, kind), scales[kind]));
}

function knownOf({ layers }: Look): ReadonlyMap<string, Image> {
  const paths = layers.flatMap(({ images }) => images);
  return new Map(
    paths.flatMap((path) => {
      const image = kept.get(path);
      return image === undefined ? [] : [[path, image]];
    }),
  );
}
