import { textIn } from "../core/base/text.ts";
import type { Catalog } from "../core/catalog/model/catalog.ts";
import { mergePacks } from "../core/catalog/packs/merge-packs.ts";
import { mergedSources } from "../core/survey/compare/merged-sources.ts";
import { CatalogFolder } from "../node/catalog-folder.ts";
import { type CatalogPlace, packsOf } from "../node/catalog-place.ts";
import { inspectFolder } from "../node/load-catalog.ts";

/** What a catalog says, with its packs laid over it, for `compareSources`. */
export async function sourcesAt(place: CatalogPlace): Promise<readonly unknown[]> {
  const { main, included, packs } = (await inspectFolder(new CatalogFolder(place), "none", packsOf(place))).sources;
  return mergedSources([main, ...Object.values(included)], packs.length === 0 ? undefined : mergePacks(packs));
}

/** `1.0.0 with Frost fair 1.0.0`. */
export function versionInWords({ version, packs }: Catalog): string {
  const laid = [...packs.values()].map((pack) => `${textIn(pack.title)} ${pack.version}`);
  return laid.length === 0 ? version : `${version} with ${laid.join(", ")}`;
}
