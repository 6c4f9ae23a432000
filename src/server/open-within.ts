import { mkdir } from "node:fs/promises";
import { PGlite } from "@electric-sql/pglite";
import { type Database, noDatabase, type Row, rolledBack, type Statements } from "./statements.ts";

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
      const result = await database.transaction(async (transaction) => {
        const done = await act(statementsOf(transaction));
        // Where a statement failed and nobody threw, nothing is done any more, and the commit would not say so.
        await transaction.query("SELECT 1").catch(() => {
          throw rolledBack();
        });
        return done;
      });
      return result;
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
