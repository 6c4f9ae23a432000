import type { Command } from "commander";
import { type CatalogPlace, folderOf } from "../node/catalog-place.ts";

/** The packs that a call names. */
export interface PackOptions {
  readonly pack?: readonly string[];
}

/** The argument that names a catalog, and the option that lays packs over it. */
export function catalogArgument(command: Command): Command {
  return command
    .argument("<catalog>", "folder with catalog.json")
    .option("--pack <folder>", "lay this pack over it; name more by giving it again", (folder: string, before) => [
      ...((before as readonly string[] | undefined) ?? []),
      folder,
    ]);
}

/** Where the catalog is that a call names. */
export function placeOf(folder: string, { pack = [] }: PackOptions): CatalogPlace {
  return pack.length === 0 ? folder : { folder, packs: pack };
}

/** The catalog as a call names it. */
export function wordsFor(place: CatalogPlace, quoted: (word: string) => string): string {
  const packs = typeof place === "string" ? [] : place.packs.flatMap((pack) => ["--pack", quoted(pack)]);
  return [quoted(folderOf(place)), ...packs].join(" ");
}
