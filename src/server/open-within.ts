import { mkdir } from "node:fs/promises";
import { PGlite } from "@electric-sql/pglite";
import { type Database, noDatabase, type Row } from "./statements.ts";

/** Opens a PostgreSQL that runs within this program and keeps its files in a folder, made when missing. */
export async function openWithin(folder: string): Promise<Database> {
  await mkdir(folder, { recursive: true });
  const database = await PGlite.create(folder).catch((error: unknown) => {
    throw noDatabase(`in ${folder}`, error);
  });
  return {
    name: `in ${folder}`,
    query: async (statement, values = []) => (await database.query<Row>(statement, [...values])).rows,
    transact: async (act) => {
      const inside = await database.transaction(async (transaction) =>
        act({ query: async (statement, values = []) => (await transaction.query<Row>(statement, [...values])).rows }),
      );
      return inside;
    },
    close: () => database.close(),
  };
}
