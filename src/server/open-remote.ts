import { Client, DatabaseError, Pool, type PoolClient, type PoolConfig } from "pg";
import { getOrInsert } from "../core/base/get-or-insert.ts";
import { MantleError } from "../core/base/problem.ts";
import { addressesIn, nameOf } from "./addresses.ts";
import { keepListening } from "./keep-listening.ts";
import { afterFailure, type Database, noDatabase, type Row, rolledBack, type Statements } from "./statements.ts";

/** How a PostgreSQL elsewhere is spoken to. */
export interface RemoteOptions {
  /** Where it is. Of several hosts with commas between them, the first that can be reached and stores is used. */
  readonly url: string;
  /** Where notices are listened to: behind a pooler, the database itself. */
  readonly listenUrl: string | undefined;
  readonly connections: number;
  readonly timeout: number;
  /** Whether connections are a pooler's, which gives each transaction another one. */
  readonly isPooled: boolean;
}

/** Opens connections to a PostgreSQL, as they are needed. */
export async function openRemote({ url, listenUrl, isPooled, ...options }: RemoteOptions): Promise<Database> {
  const name = nameOf(url);
  const pools = addressesIn(url).map((address) => openPool(address, isPooled, options));
  /** What ends each listening that goes on. */
  const stops = new Set<() => Promise<void>>();
  let current = 0;

  const failed = (error: unknown) => {
    if (error instanceof MantleError) return error;
    if (!(error instanceof DatabaseError)) return noDatabase(name, error, "cannot be reached");
    if (error.code === afterFailure) return rolledBack();
    if (error.message.includes("startup parameter")) return poolerUnknown(name);
    return isOfDatabase(error) ? noDatabase(name, error, "cannot work") : error;
  };
  /** A connection to the first host that can be reached and stores, beginning with the one that did last. */
  const connect = async (): Promise<PoolClient> => {
    let failure: unknown;
    for (let tries = 0; tries < pools.length; tries += 1) {
      const number = (current + tries) % pools.length;
      try {
        const client = await pools[number]?.connect();
        current = number;
        if (client !== undefined) return client;
      } catch (error) {
        failure ??= error;
      }
    }
    throw failed(failure);
  };
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
      const prepared = isPooled ? { text: statement } : named(statement);
      return await client.query<Row>({ ...prepared, values: [...values] });
    } catch (error) {
      throw failed(error);
    }
  };
  const statementsOf = (client: PoolClient): Statements => ({
    query: async (statement, values) => (await send(client, statement, values)).rows,
    change: async (statement, values) => (await send(client, statement, values)).rowCount ?? 0,
  });
  const listening = listenUrl === undefined ? [] : addressesIn(listenUrl);
  const database: Database = {
    name,
    isShared: true,
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
    listen: async (channel, listener) => {
      if (listening.length === 0) throw nothingHeard(name);
      const stop = await keepListening(async (number, ended) => {
        const address = listening[number % listening.length];
        const client = new Client({
          connectionString: address,
          connectionTimeoutMillis: options.timeout,
          keepAlive: true,
        });
        client.on("error", ended);
        client.on("end", () => ended());
        client.on("notification", ({ payload = "" }) => listener.onNotice(payload));
        await client.connect();
        await client.query(`LISTEN ${channel}`);
        return () => client.end();
      }, listener);
      stops.add(stop);
      return async () => {
        stops.delete(stop);
        await stop();
      };
    },
    close: async () => {
      await Promise.all([...pools.map((pool) => pool.end()), ...[...stops].map((stop) => stop())]);
    },
  };
  try {
    await database.query("SELECT 1");
  } catch (error) {
    await database.close();
    throw error;
  }
  return database;
}

function openPool(
  connectionString: string,
  isPooled: boolean,
  { connections, timeout }: Pick<RemoteOptions, "connections" | "timeout">,
): Pool {
  // A pooler knows no settings of a connection: there, the role or the database has them.
  const settings: PoolConfig = isPooled
    ? {}
    : {
        statement_timeout: timeout,
        // A transaction whose program hangs holds up nobody for longer.
        idle_in_transaction_session_timeout: timeout * 2,
      };
  const pool = new Pool({
    connectionString,
    max: connections,
    connectionTimeoutMillis: timeout,
    query_timeout: timeout * 2,
    keepAlive: true,
    verify: (client, done) => {
      requireWritable(client).then(
        () => done(),
        (error: Error) => done(error),
      );
    },
    ...settings,
  });
  // A connection that nobody uses was ended: the next query opens another one, and rejects when it cannot.
  pool.on("error", ignore);
  // One that is in use may be ended at any moment, too: the statement fails then, and the event says the same once more.
  pool.on("connect", (client) => client.on("error", ignore));
  return pool;
}

/** @throws DatabaseError for a standby, or another that stores nothing. */
async function requireWritable(client: PoolClient): Promise<void> {
  const { rows } = await client.query(
    "SELECT pg_is_in_recovery() OR current_setting('default_transaction_read_only') = 'on' AS stores_nothing",
  );
  if (rows[0]?.stores_nothing !== true) return;
  const error = new DatabaseError("it is a standby, or set to read only, and stores nothing", 0, "error");
  error.code = readOnly;
  throw error;
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

const readOnly = "25006";

/**
 * Whether an error is about the database and not about the statement. These are PostgreSQL's classes 08 (connection), 53 (resources) and 57 (an
 * operator's doing: it is stopped, or starts), except a statement that took too long; and that it stores nothing any more, as one that was a
 * primary once.
 */
function isOfDatabase({ code = "" }: DatabaseError): boolean {
  return code === readOnly || /^(08|53|57P)/.test(code);
}

function poolerUnknown(name: string): MantleError {
  return new MantleError(
    "bad-call",
    `The database ${name} is behind a pooler, which does not take the settings of a connection. Open it with { isPooled: true }, and set statement_timeout for the role.`,
  );
}

function nothingHeard(name: string): MantleError {
  return new MantleError(
    "bad-call",
    `The database ${name} is behind a pooler, through which no notices come. Give listenUrl, the address of the database itself.`,
  );
}
