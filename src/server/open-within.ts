import { mkdir } from "node:fs/promises";
import { PGlite } from "@electric-sql/pglite";
import { lockFolder } from "./lock-folder.ts";
import { afterFailure, type Database, noDatabase, type Row, rolledBack, type Statements } from "./statements.ts";

/**
 * Opens a PostgreSQL that runs within this program and keeps its files in a folder, made when missing.
 *
 * @throws MantleError `in-use` when another program has it open, `no-database`.
 */
export async function openWithin(folder: string): Promise<Database> {
  await mkdir(folder, { recursive: true });
  const release = await lockFolder(folder);
  const database = await PGlite.create(folder).catch(async (error: unknown) => {
    await release();
    throw noDatabase(`in ${folder}`, error, "cannot work");
  });
  return {
    name: `in ${folder}`,
    isShared: false,
    ...statementsOf(database),
    transact: async (act) => {
      const result = await database.transaction(async (transaction) => {
        const done = await act(statementsOf(transaction));
        // Where a statement failed and nobody threw, nothing is done any more, and the commit would not say so.
        await statementsOf(transaction).query("SELECT 1");
        return done;
      });
      return result;
    },
    listen: (channel, { onNotice }) => database.listen(channel, onNotice),
    close: () => database.close().finally(release),
  };
}

function statementsOf(at: Pick<PGlite, "query">): Statements {
  const send = (statement: string, values: readonly unknown[] = []) =>
    at.query<Row>(statement, [...values]).catch((error: unknown) => {
      throw Object(error).code === afterFailure ? rolledBack() : error;
    });
  return {
    query: async (statement, values) => (await send(statement, values)).rows,
    change: async (statement, values) => (await send(statement, values)).affectedRows ?? 0,
  };
}
