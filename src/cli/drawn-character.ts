import { requireKnown } from "../core/base/require-known.ts";
import type { Catalog } from "../core/catalog/model/catalog.ts";
import type { Character } from "../core/character/character.ts";
import { isDrawn } from "../core/look/is-drawn.ts";
import type { Look, Moment } from "../core/look/look.ts";
import { type LookOptions, resolveLook } from "../core/look/resolve-look.ts";
import { composeFrame } from "../core/raster/compose-frame.ts";
import type { Image, Images } from "../core/raster/image.ts";
import { loadCatalog } from "../node/load-catalog.ts";
import { loadImages } from "../node/load-images.ts";
import { loadModels } from "../node/load-models.ts";
import { readCharacterFile } from "./character-file.ts";

/** Everything needed to draw the character of a file. */
export interface DrawnCharacter {
  readonly catalog: Catalog;
  readonly character: Character;
  readonly look: Look;
  readonly images: Images;
}

/** Loads a catalog, a character's file, and the pictures the character needs. */
export async function loadDrawnCharacter(
  folder: string,
  file: string,
  options: LookOptions = {},
): Promise<DrawnCharacter> {
  const catalog = await loadCatalog(folder);
  const character = await readCharacterFile(file);
  const look = resolveLook(catalog, character, options);
  return { catalog, character, look, images: await loadImages(folder, [look]) };
}

/** Draws a moment of a character. */
export type DrawFrame = (moment: Moment) => Image;

interface ModelOption {
  /** Whether the model is wanted of a character that has pictures, too. */
  readonly model?: boolean;
}

/** Whether a character is drawn of its pictures, and not of its model. */
export function isSeenInPictures({ catalog, character }: DrawnCharacter, { model = false }: ModelOption): boolean {
  return !model && isDrawn(requireKnown("body", character.body, catalog.bodies));
}

/** What draws a character: its pictures, or its model. What draws models is loaded when it is needed. */
export async function frameDrawer(folder: string, drawn: DrawnCharacter, options: ModelOption): Promise<DrawFrame> {
  const { look, images } = drawn;
  if (isSeenInPictures(drawn, options)) return (moment) => composeFrame(look, images, moment);
  const { drawModel } = await import("../core/model/draw-model.ts");
  const { prepareModel } = await import("../core/model/prepare-model.ts");
  const prepared = await prepareModel(look, await loadModels(folder, [look]));
  return (moment) => drawModel(prepared, moment);
}
