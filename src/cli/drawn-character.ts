import { requireKnown } from "../core/base/require-known.ts";
import type { Catalog } from "../core/catalog/model/catalog.ts";
import type { Character } from "../core/character/character.ts";
import { iconLook } from "../core/look/icon-look.ts";
import { isDrawn } from "../core/look/is-drawn.ts";
import type { Look, Moment } from "../core/look/look.ts";
import { type LookOptions, resolveLook } from "../core/look/resolve-look.ts";
import { composeFrame } from "../core/raster/compose-frame.ts";
import { drawCrop } from "../core/raster/draw-crop.ts";
import { drawIcon } from "../core/raster/draw-icon.ts";
import { enlargeImage, type Image, type Images } from "../core/raster/image.ts";
import type { CatalogPlace } from "../node/catalog-place.ts";
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
  place: CatalogPlace,
  file: string,
  options: LookOptions = {},
): Promise<DrawnCharacter> {
  const catalog = await loadCatalog(place);
  const character = await readCharacterFile(file);
  const look = resolveLook(catalog, character, options);
  return { catalog, character, look, images: await loadImages(place, [look]) };
}

/** What draws a character, in pictures or in three dimensions; `scale` is pixels for each of the rig's frame, on a side. */
export interface Drawer {
  frame(moment: Moment, scale: number): Image;
  crop(name: string, scale: number): Image;
  /** The option icon of a part. */
  icon(part: string, scale: number): Promise<Image>;
}

interface ModelOption {
  /** Whether the model is wanted of a character that has pictures, too. */
  readonly model?: boolean;
}

/** Whether a character is drawn of its pictures, and not of its model. */
export function isSeenInPictures({ catalog, character }: DrawnCharacter, { model = false }: ModelOption): boolean {
  return !model && isDrawn(requireKnown("body", character.body, catalog.bodies));
}

/** What draws a character: its pictures, or its model. */
export function drawerOf(place: CatalogPlace, drawn: DrawnCharacter, options: ModelOption): Drawer | Promise<Drawer> {
  return isSeenInPictures(drawn, options) ? pictureDrawer(place, drawn) : modelDrawer(place, drawn);
}

function pictureDrawer(place: CatalogPlace, { catalog, character, look, images }: DrawnCharacter): Drawer {
  return {
    frame: (moment, scale) => enlargeImage(composeFrame(look, images, moment), scale),
    crop: (name, scale) => enlargeImage(drawCrop(look, images, name), scale),
    async icon(part, scale) {
      const worn = iconLook(catalog, character, part);
      return enlargeImage(drawIcon(worn, await loadImages(place, [worn]), part), scale);
    },
  };
}

/** What draws models is loaded when it is needed. */
async function modelDrawer(place: CatalogPlace, { catalog, character, look }: DrawnCharacter): Promise<Drawer> {
  const { drawModel, drawModelCrop, drawModelIcon } = await import("../core/model/draw-model.ts");
  const { prepareModel } = await import("../core/model/prepare-model.ts");
  const prepare = async (each: Look) => prepareModel(each, await loadModels(place, [each]));
  const model = await prepare(look);
  // Crisp pixels are made larger, and anything else is drawn larger.
  const at = (scale: number, draw: (scale: number) => Image) =>
    look.rig.crisp ? enlargeImage(draw(1), scale) : draw(scale);
  return {
    frame: (moment, scale) => at(scale, (each) => drawModel(model, moment, { scale: each })),
    crop: (name, scale) => at(scale, (each) => drawModelCrop(model, name, { scale: each })),
    async icon(part, scale) {
      const worn = await prepare(iconLook(catalog, character, part));
      return at(scale, (each) => drawModelIcon(worn, part, { size: Math.round(48 * each) }));
    },
  };
}
