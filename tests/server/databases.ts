import { createHash } from "node:crypto";
import { existsSync, readFileSync } from "node:fs";
import { cp, mkdir, mkdtemp, rename, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll } from "@jest/globals";
import { type Database, openDatabase } from "zealous-mantle/server";
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

/**
 * A folder with a database that has never been used, for `openDatabase`. Making one takes seconds, so one is made, and copied from then on.
 */
export async function newDatabaseFolder(): Promise<string> {
  const tables = createHash("sha256").update(readFileSync("schema/saves.sql")).digest("hex").slice(0, 8);
  const template = join("node_modules/.cache", `mantle-database-${pglite.version}-${tables}`);
  const folder = await mkdtemp(join(tmpdir(), "mantle-database-"));
  if (!existsSync(template)) {
    const made = await mkdtemp(join(tmpdir(), "mantle-template-"));
    await (await openDatabase({ url: "", folder: made })).close();
    await mkdir("node_modules/.cache", { recursive: true });
    const draft = `${template}-${process.pid}`;
    await cp(made, draft, { recursive: true });
    // Another test may have made one meanwhile.
    await rename(draft, template).catch(() => rm(draft, { recursive: true }));
    await rm(made, { recursive: true });
  }
  await cp(template, folder, { recursive: true });
  return folder;
}

const pglite = JSON.parse(readFileSync("node_modules/@electric-sql/pglite/package.json", "utf8"));

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
