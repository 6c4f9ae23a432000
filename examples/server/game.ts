import { createHash } from "node:crypto";
import { readdir, readFile } from "node:fs/promises";
import { join } from "node:path";
import type { Catalog, Holdings } from "zealous-mantle";
import { loadCatalog } from "zealous-mantle/node";

/** What the server knows of the game: its catalog, what has to be bought, and what a player begins with. */
export interface Game {
  readonly folder: string;
  readonly catalog: Catalog;
  /** Names all files of the catalog: where one of them changes, this does. */
  readonly edition: string;
  /** Parts that are not handed out: a player has as many as they bought. */
  readonly forSale: ReadonlySet<string>;
  /** What every player has from the beginning. */
  readonly start: { readonly balance: number; readonly holdings: Holdings };
  readonly bagPlaces: number;
  readonly maxCharacters: number;
  /** How many saves a player may have, those that were removed among them, and their bytes together. */
  readonly maxSaves: number;
  readonly maxStored: number;
}

/** What the post office sells; everything else it hands out to its couriers. */
const forSale = [
  "flares",
  "whistle",
  "boathook",
  "watch-chain",
  "pilot-badge",
  "eel-charm",
  "knot-charm",
  "anchor-charm",
  "moon-charm",
  "tide-table",
  "pilot-cap",
  "ear-cap",
  "gauntlets",
];

/** Loads the game that is played on this server. */
export async function loadGame(folder: string, balance: number): Promise<Game> {
  const catalog = await loadCatalog(folder);
  const isForSale = new Set(forSale);
  const issued = [...catalog.parts.values()].filter(({ id, access }) => access !== "owned" && !isForSale.has(id));
  const holdings = Object.fromEntries(issued.map(({ id }) => [id, "owned" as const]));
  return {
    folder,
    catalog,
    edition: await editionOf(folder),
    forSale: isForSale,
    start: { balance, holdings },
    bagPlaces: 24,
    maxCharacters: 24,
    maxSaves: 400,
    maxStored: 8_000_000,
  };
}

async function editionOf(folder: string): Promise<string> {
  const hash = createHash("sha256");
  const entries = await readdir(folder, { recursive: true, withFileTypes: true });
  const files = entries.filter((entry) => entry.isFile()).map((entry) => join(entry.parentPath, entry.name));
  for (const file of files.sort()) hash.update(file.slice(folder.length)).update(await readFile(file));
  return hash.digest("hex");
}
