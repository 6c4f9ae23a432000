import { limits } from "../core/base/limits.ts";
import { MantleError } from "../core/base/problem.ts";
import { CatalogFolder } from "./catalog-folder.ts";

/** The folders of packs, and the id of each. */
export class PackFolders {
  readonly #all: readonly CatalogFolder[];
  #byId: Promise<ReadonlyMap<string, CatalogFolder>> | undefined;

  constructor(paths: readonly string[]) {
    this.#all = paths.map((path) => new CatalogFolder(path));
  }

  /** The folder of a pack; `undefined` for one that is not among them. */
  async find(id: string): Promise<CatalogFolder | undefined> {
    this.#byId ??= this.#read();
    return (await this.#byId).get(id);
  }

  async #read(): Promise<ReadonlyMap<string, CatalogFolder>> {
    const found = await Promise.all(
      this.#all.map(async (folder) => {
        const id = await idOfPack(folder);
        return id === undefined ? [] : [[id, folder] as const];
      }),
    );
    // Of two of one id, the first is the one that is read.
    return new Map(found.flat().reverse());
  }
}

/** The id that the `pack.json` of a folder has. What is wrong with that file is said where it is read whole. */
export async function idOfPack(folder: CatalogFolder): Promise<string | undefined> {
  try {
    const bytes = await folder.read("pack.json", { bytes: limits.catalogLength });
    const id: unknown = Object(JSON.parse(bytes?.toString("utf8") ?? "null")).id;
    return typeof id === "string" ? id : undefined;
  } catch (error) {
    if (error instanceof MantleError || error instanceof SyntaxError) return undefined;
    throw error;
  }
}
