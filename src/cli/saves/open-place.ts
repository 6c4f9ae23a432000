import { stat } from "node:fs/promises";
import { join } from "node:path";
import { MantleError } from "../../core/base/problem.ts";
import { memoryStore, type Store } from "../../core/save/store.ts";
import { fileStore } from "../../node/file-store.ts";
import type { Database } from "../../server/statements.ts";

/** Saves where they were named, and what closes them. */
export interface OpenedPlace {
  readonly store: Store;
  readonly database: Database | undefined;
  readonly close: () => Promise<void>;
}

/**
 * Opens the saves of a folder that a file store writes to; or those of a player in a database, by its address or by the folder of one that
 * runs within a program.
 *
 * @throws MantleError `unreadable-file`, `no-database`, and `bad-call` where a database is named without a player.
 */
export async function openPlace(
  place: string,
  player: string | undefined,
  { isOfAllPlayers = false }: { readonly isOfAllPlayers?: boolean } = {},
): Promise<OpenedPlace> {
  const isRemote = /^postgres(ql)?:\/\//.test(place);
  const isWithin = !isRemote && (await stat(join(place, "PG_VERSION")).catch(() => undefined)) !== undefined;
  if (isRemote || isWithin) {
    if (player === undefined && !isOfAllPlayers)
      throw new MantleError("bad-call", "A database has the saves of many players. Name one with --player.");
    const { openDatabase } = await import("../../server/database.ts");
    const { postgresStore } = await import("../../server/postgres-store.ts");
    const database = await openDatabase(isRemote ? { url: place } : { url: "", folder: place });
    const store = player === undefined ? memoryStore() : postgresStore(database, player);
    return { store, database, close: () => database.close() };
  }
  const found = await stat(place).catch(() => undefined);
  if (!found?.isDirectory())
    throw new MantleError(
      "unreadable-file",
      `There is no folder ${place}. Name the folder that a file store writes to.`,
    );
  return { store: fileStore(place), database: undefined, close: async () => {} };
}
