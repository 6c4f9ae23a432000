import type { Catalog } from "../core/catalog/model/catalog.ts";
import type { Character } from "../core/character/character.ts";
import type { Look } from "../core/look/look.ts";
import { type LookOptions, resolveLook } from "../core/look/resolve-look.ts";
import type { Images } from "../core/raster/image.ts";
import { loadCatalog } from "../node/load-catalog.ts";
import { loadImages } from "../node/load-images.ts";
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
