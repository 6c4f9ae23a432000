import { packFolder } from "../core/catalog/pack-paths.ts";
import { mergePacks, type Packs } from "../core/catalog/packs/merge-packs.ts";
import type { PackFiles } from "../core/catalog/packs/pack-files.ts";
import { fetchIncluded } from "./fetch-files.ts";
import { ServedFolder, type ServedPack } from "./served-folder.ts";

/**
 * Fetches the files of packs, and makes their art found from the folder of the catalog.
 *
 * @param before - packs whose files came with the catalog.
 * @throws MantleError `missing-file` without a `pack.json`; `bad-catalog` where files it includes did not come.
 */
export async function fetchPacks(
  folder: ServedFolder,
  listed: readonly ServedPack[],
  before: readonly PackFiles[],
): Promise<Packs> {
  const fetched = await Promise.all(
    listed.map(async ({ url, files }): Promise<PackFiles> => {
      const own = new ServedFolder(url, files === undefined ? {} : { files });
      const [source] = await folder.all(["pack.json"], (path) => own.json(path));
      const id: unknown = Object(source).id;
      if (typeof id === "string") folder.hold(packFolder(id), own);
      return { source, included: await fetchIncluded(own, "pack.json", source, files) };
    }),
  );
  return mergePacks([...before, ...fetched]);
}
