import { Client, DatabaseError, Pool, type PoolClient, type PoolConfig } from "pg";
import { getOrInsert } from "../core/base/get-or-insert.ts";
import { MantleError } from "../core/base/problem.ts";
import { addressesIn, nameOf } from "./addresses.ts";
import { keepListening } from "./keep-listening.ts";
import {
  afterFailure,
  type Database,
  type NoticeListener,
  noDatabase,
  type Row,
  rolledBack,
  type Statements,
} from "./statements.ts";

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
export async function openRemote(options: RemoteOptions): Promise<Database> {
  const database = new RemoteDatabase(options);
  try {
    await database.query("SELECT 1");
  } catch (error) {
    await database.close();
    throw error;
  }
  return database;
}

class RemoteDatabase implements Database {
  readonly name: string;
  readonly isShared = true;
  readonly #options: RemoteOptions;
  /** One for each host. */
  readonly #pools: readonly Pool[];
  /** Where notices are listened to, host by host; nowhere behind a pooler alone. */
  readonly #listenAddresses: readonly string[];
  /** What ends each listening that goes on. */
  readonly #stops = new Set<() => Promise<void>>();
  /** The host that stored last. */
  #current = 0;

  constructor(options: RemoteOptions) {
    const { url, listenUrl, isPooled } = options;
    this.name = nameOf(url);
    this.#options = options;
    this.#pools = addressesIn(url).map((address) => openPool(address, isPooled, options));
    this.#listenAddresses = listenUrl === undefined ? [] : addressesIn(listenUrl);
  }

  query(statement: string, values?: readonly unknown[]): Promise<readonly Row[]> {
    return this.#within((client) => this.#statements(client).query(statement, values));
  }

  change(statement: string, values?: readonly unknown[]): Promise<number> {
    return this.#within((client) => this.#statements(client).change(statement, values));
  }

  transact<T>(act: (statements: Statements) => Promise<T>): Promise<T> {
    return this.#within(async (client) => {
      const inside = this.#statements(client);
      await inside.query("BEGIN");
      try {
        const result = await act(inside);
        // Where a statement failed and nobody threw, COMMIT rolls back, and only its answer says so.
        const { command } = await this.#send(client, "COMMIT");
        if (command !== "COMMIT") throw rolledBack();
        return result;
      } catch (error) {
        // Where the connection is gone, so is the transaction.
        if (!isNoDatabase(error)) await inside.query("ROLLBACK");
        throw error;
      }
    });
  }

  async listen(channel: string, listener: NoticeListener): Promise<() => Promise<void>> {
    if (this.#listenAddresses.length === 0) throw nothingHeard(this.name);
    const stop = await keepListening((number, ended) => this.#listenOnce(channel, listener, number, ended), listener);
    this.#stops.add(stop);
    return async () => {
      this.#stops.delete(stop);
      await stop();
    };
  }

  async close(): Promise<void> {
    await Promise.all([...this.#pools.map((pool) => pool.end()), ...[...this.#stops].map((stop) => stop())]);
  }

  /** Listens by a connection of its own. Returns what ends it. @param ended - called when the connection ends by itself. */
  async #listenOnce(channel: string, listener: NoticeListener, number: number, ended: () => void) {
    const connectionString = this.#listenAddresses[number % this.#listenAddresses.length];
    const client = new Client({
      connectionString,
      connectionTimeoutMillis: this.#options.timeout,
      keepAlive: true,
    });
    client.on("error", ended);
    client.on("end", () => ended());
    client.on("notification", ({ payload = "" }) => listener.onNotice(payload));
    await client.connect();
    await client.query(`LISTEN ${channel}`);
    return () => client.end();
  }

  #statements(client: PoolClient): Statements {
    return {
      query: async (statement, values) => (await this.#send(client, statement, values)).rows,
      change: async (statement, values) => (await this.#send(client, statement, values)).rowCount ?? 0,
    };
  }

  async #send(client: PoolClient, statement: string, values: readonly unknown[] = []) {
    try {
      const prepared = this.#options.isPooled ? { text: statement } : named(statement);
      return await client.query<Row>({ ...prepared, values: [...values] });
    } catch (error) {
      throw this.#failed(error);
    }
  }

  /** Gives a connection to an act, and takes it back. */
  async #within<T>(act: (client: PoolClient) => Promise<T>): Promise<T> {
    const client = await this.#connect();
    let failure: Error | undefined;
    try {
      return await act(client);
    } catch (error) {
      if (isNoDatabase(error)) failure = new Error("The connection is not used again.");
      throw error;
    } finally {
      client.release(failure);
    }
  }

  /** A connection to the first host that can be reached and stores, beginning with the one that did last. */
  async #connect(): Promise<PoolClient> {
    let failure: unknown;
    for (let tries = 0; tries < this.#pools.length; tries += 1) {
      const number = (this.#current + tries) % this.#pools.length;
      try {
        const client = await this.#pools[number]?.connect();
        this.#current = number;
        if (client !== undefined) return client;
      } catch (error) {
        failure ??= error;
      }
    }
    throw this.#failed(failure);
  }

  #failed(error: unknown): unknown {
    if (error instanceof MantleError) return error;
    if (!(error instanceof DatabaseError)) return noDatabase(this.name, error, "cannot be reached");
    if (error.code === afterFailure) return rolledBack();
    if (error.message.includes("startup parameter")) return poolerUnknown(this.name);
    return isOfDatabase(error) ? noDatabase(this.name, error, "cannot work") : error;
  }
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
