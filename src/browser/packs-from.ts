import type { Packs } from "../core/catalog/packs/merge-packs.ts";
import type { PackFiles } from "../core/catalog/packs/pack-files.ts";
import type { ServedFolder, ServedPack } from "./served-folder.ts";

/** What fetches packs; it is loaded where there are any. */
export async function packsFrom(
  listed: readonly ServedPack[],
  before: readonly PackFiles[] = [],
): Promise<((folder: ServedFolder) => Promise<Packs>) | undefined> {
  if (listed.length + before.length === 0) return undefined;
  const { fetchPacks } = await import("./fetch-packs.ts");
  return (folder) => fetchPacks(folder, listed, before);
}
