import { DatabaseError, Pool, type PoolClient } from "pg";
import { getOrInsert } from "../core/base/get-or-insert.ts";
import { MantleError } from "../core/base/problem.ts";
import { afterFailure, type Database, noDatabase, type Row, rolledBack, type Statements } from "./statements.ts";

/** Opens connections to a PostgreSQL, as they are needed. */
export async function openRemote(url: string, connections: number, timeout: number): Promise<Database> {
  const name = nameOf(url);
  const pool = new Pool({
    connectionString: url,
    max: connections,
    connectionTimeoutMillis: timeout,
    statement_timeout: timeout,
    query_timeout: timeout * 2,
    // A transaction whose program hangs holds up nobody for longer.
    idle_in_transaction_session_timeout: timeout * 2,
    keepAlive: true,
  });
  // A connection that nobody uses was ended: the next query opens another one, and rejects when it cannot.
  pool.on("error", ignore);
  // One that is in use may be ended at any moment, too: the statement fails then, and the event says the same once more.
  pool.on("connect", (client) => client.on("error", ignore));
  const failed = (error: unknown) => {
    if (!(error instanceof DatabaseError)) return noDatabase(name, error, "cannot be reached");
    if (error.code === afterFailure) return rolledBack();
    return isOfDatabase(error) ? noDatabase(name, error, "cannot work") : error;
  };

  const connect = (): Promise<PoolClient> =>
    pool.connect().catch((error: unknown) => {
      throw failed(error);
    });
  const within = async <T>(act: (client: PoolClient) => Promise<T>): Promise<T> => {
    const client = await connect();
    let failure: Error | undefined;
    try {
      return await act(client);
    } catch (error) {
      if (isNoDatabase(error)) failure = new Error("The connection is not used again.");
      throw error;
    } finally {
      client.release(failure);
    }
  };
  const send = async (client: PoolClient, statement: string, values: readonly unknown[] = []) => {
    try {
      return await client.query<Row>({ ...named(statement), values: [...values] });
    } catch (error) {
      throw failed(error);
    }
  };
  const statementsOf = (client: PoolClient): Statements => ({
    query: async (statement, values) => (await send(client, statement, values)).rows,
    change: async (statement, values) => (await send(client, statement, values)).rowCount ?? 0,
  });
  const database: Database = {
    name,
    query: (statement, values) => within((client) => statementsOf(client).query(statement, values)),
    change: (statement, values) => within((client) => statementsOf(client).change(statement, values)),
    transact: (act) =>
      within(async (client) => {
        const inside = statementsOf(client);
        await inside.query("BEGIN");
        try {
          const result = await act(inside);
          // Where a statement failed and nobody threw, COMMIT rolls back, and only its answer says so.
          const { command } = await send(client, "COMMIT");
          if (command !== "COMMIT") throw rolledBack();
          return result;
        } catch (error) {
          // Where the connection is gone, so is the transaction.
          if (!isNoDatabase(error)) await inside.query("ROLLBACK");
          throw error;
        }
      }),
    close: () => pool.end(),
  };
  try {
    await database.query("SELECT 1");
  } catch (error) {
    await pool.end();
    throw error;
  }
  return database;
}

function ignore(): void {}

const names = new Map<string, string>();

/** Statements that have values are few, and each is planned once for a connection. */
function named(text: string): { readonly text: string; readonly name?: string } {
  if (!text.includes("$1")) return { text };
  return { text, name: getOrInsert(names, text, () => `mantle_${names.size}`) };
}

function isNoDatabase(error: unknown): boolean {
  return error instanceof MantleError && error.code === "no-database";
}

/**
 * Whether an error is about the database and not about the statement. These are PostgreSQL's classes 08 (connection), 53 (resources) and 57 (an
 * operator's doing: it is stopped, or starts), except a statement that took too long; and that it stores nothing any more, as one that was a
 * primary once.
 */
function isOfDatabase({ code = "" }: DatabaseError): boolean {
  return /^(08|53|57P|25006)/.test(code);
}

/** The address without what opens it. */
function nameOf(url: string): string {
  // What cannot be read may hold a password as well, so it is not repeated.
  if (!URL.canParse(url))
    throw new MantleError(
      "bad-call",
      "That is no address of a database. Write it like postgres://user@host:5432/name.",
    );
  const { hostname, port, pathname } = new URL(url);
  return `at ${hostname}${port === "" ? "" : `:${port}`}${pathname}`;
}
