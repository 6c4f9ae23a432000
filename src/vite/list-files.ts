import { glob } from "tinyglobby";
import { listFile } from "../core/catalog/file-list.ts";

/** What belongs to a catalog in its folder. What artists draw in stays where it is. */
const kinds = ["json", "png", "jpg", "jpeg", "glb", "gltf", "bin"];

/** The files of a catalog, by their paths in its folder. */
export async function listFiles(folder: string): Promise<readonly string[]> {
  const files = await glob(`**/*.{${kinds.join(",")}}`, { cwd: folder, followSymbolicLinks: false });
  return files.filter((file) => file !== listFile).sort();
}
