/** Where a catalog is: its folder, or that with the folders of the packs that are laid over it. */
export type CatalogPlace =
  | string
  | {
      readonly folder: string;
      /** The folders of packs, each with a `pack.json`, in any order. */
      readonly packs: readonly string[];
    };

/** The folder of a catalog. */
export function folderOf(place: CatalogPlace): string {
  return typeof place === "string" ? place : place.folder;
}

/** The folders of the packs that are laid over it. */
export function packsOf(place: CatalogPlace): readonly string[] {
  return typeof place === "string" ? [] : place.packs;
}
