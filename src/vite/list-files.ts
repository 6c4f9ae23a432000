import { glob } from "tinyglobby";
import { listFile } from "../core/catalog/file-list.ts";
import { packFolder } from "../core/catalog/pack-paths.ts";
import { CatalogFolder, idOfPack } from "../node/catalog-folder.ts";
import { type CatalogPlace, folderOf, packsOf } from "../node/catalog-place.ts";

/** What belongs to a catalog in its folder. What artists draw in stays where it is. */
const kinds = ["json", "png", "jpg", "jpeg", "glb", "gltf", "bin"];

/** The files of a catalog and of its packs, by their paths from its folder. */
export interface ListedFiles {
  readonly files: readonly string[];
  /** The ids of its packs. */
  readonly packs: readonly string[];
}

/** Lists the files of a catalog, and of the packs that are laid over it. A pack without an id has none; reading the catalog reports it. */
export async function listFiles(place: CatalogPlace): Promise<ListedFiles> {
  const own = await filesIn(folderOf(place), ["packs/*/**"]);
  const packs = new Map<string, readonly string[]>();
  for (const path of packsOf(place)) {
    const id = await idOfPack(new CatalogFolder(path));
    if (id !== undefined) packs.set(id, await filesIn(path, []));
  }
  const ofPacks = [...packs].flatMap(([id, files]) => files.map((file) => packFolder(id) + file));
  return { files: [...own.filter((file) => file !== listFile), ...ofPacks], packs: [...packs.keys()] };
}

async function filesIn(cwd: string, ignore: string[]): Promise<readonly string[]> {
  return (await glob(`**/*.{${kinds.join(",")}}`, { cwd, ignore, followSymbolicLinks: false })).sort();
}
