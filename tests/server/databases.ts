import { cp, mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll } from "@jest/globals";
import { type Database, openDatabase } from "zealous-mantle/server";
import { databaseTemplate } from "../../scripts/database-template.ts";
import { newPostgresDatabase } from "./shared-postgres.ts";

/** The databases that everything is tried on. */
export const kinds = ["PostgreSQL", "the database within the program"] as const;

export type DatabaseKind = (typeof kinds)[number];

/** What a test file opens once. */
export interface OpenedDatabase {
  readonly database: Database;
  /** Where it is, for a program of its own; of one within a program there is only one at a time. */
  readonly place: { readonly url: string } | { readonly folder: string };
}

/** A folder with a database that has never been used, for `openDatabase`. */
export async function newDatabaseFolder(): Promise<string> {
  const folder = await mkdtemp(join(tmpdir(), "mantle-database-"));
  await cp(await databaseTemplate(), folder, { recursive: true });
  return folder;
}

/** Opens a database of a kind before the tests of a file, and removes it after them. */
export function useDatabase(kind: DatabaseKind): () => OpenedDatabase {
  let opened: OpenedDatabase | undefined;
  let close = async () => {};
  beforeAll(async () => {
    if (kind === "PostgreSQL") {
      const url = await newPostgresDatabase();
      const database = await openDatabase({ url });
      opened = { database, place: { url } };
      close = () => database.close();
    } else {
      const folder = await newDatabaseFolder();
      const database = await openDatabase({ url: "", folder });
      opened = { database, place: { folder } };
      close = async () => {
        await database.close();
        await rm(folder, { recursive: true });
      };
    }
  });
  afterAll(() => close());
  return () => {
    if (opened === undefined) throw new Error("The database is not open yet.");
    return opened;
  };
}
