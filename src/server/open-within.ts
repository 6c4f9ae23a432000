import { mkdir } from "node:fs/promises";
import { PGlite } from "@electric-sql/pglite";
import { type Database, noDatabase, type Row, type Statements } from "./statements.ts";

/** Opens a PostgreSQL that runs within this program and keeps its files in a folder, made when missing. */
export async function openWithin(folder: string): Promise<Database> {
  await mkdir(folder, { recursive: true });
  const database = await PGlite.create(folder).catch((error: unknown) => {
    throw noDatabase(`in ${folder}`, error);
  });
  return {
    name: `in ${folder}`,
    ...statementsOf(database),
    transact: async (act) => {
      const inside = await database.transaction(async (transaction) => act(statementsOf(transaction)));
      return inside;
    },
    close: () => database.close(),
  };
}

function statementsOf(at: Pick<PGlite, "query">): Statements {
  return {
    query: async (statement, values = []) => (await at.query<Row>(statement, [...values])).rows,
    change: async (statement, values = []) => (await at.query(statement, [...values])).affectedRows ?? 0,
  };
}
