import { readFile } from "node:fs/promises";
import { MantleError } from "../core/base/problem.ts";

/** A value of a row: what `bigint` and `bytea` are in JavaScript differs from driver to driver. */
export type Value = string | number | bigint | Uint8Array | readonly unknown[] | Date | null;

/** A row, by the names of its columns. */
export type Row = Readonly<Record<string, Value>>;

/** What statements are sent to: a database, or a transaction of it. */
export interface Statements {
  /**
   * Sends a statement with its values, `$1` the first.
   *
   * @throws MantleError `no-database` when the database cannot be reached or ends the connection; whether the statement was done is not
   * known then. What is wrong with a statement is thrown as the driver throws it.
   */
  query(statement: string, values?: readonly unknown[]): Promise<readonly Row[]>;
}

/** A PostgreSQL: one that runs within this program, or one elsewhere. */
export interface Database extends Statements {
  /** What it is, for people: never with a password. */
  readonly name: string;
  /**
   * Does statements as one: all of them, or none when it throws.
   *
   * @throws MantleError `no-database` as `query` does.
   */
  transact<T>(act: (statements: Statements) => Promise<T>): Promise<T>;
  /** Resolves once what has begun is done. */
  close(): Promise<void>;
}

export interface DatabaseOptions {
  /** Where a PostgreSQL is, `postgres://…`. @defaultValue the environment's `DATABASE_URL` */
  readonly url?: string | undefined;
  /** Without a `url`: the folder of a PostgreSQL that runs within this program. One program at a time may open it. */
  readonly folder?: string;
  /** How many connections there are at most. @defaultValue `10` */
  readonly connections?: number;
  /** Milliseconds that a statement may take, and that a connection is waited for. @defaultValue `5000` */
  readonly timeout?: number;
}

/**
 * Opens a database and makes the tables that are missing in it (`schema/saves.sql`).
 *
 * With a `url`, or with `DATABASE_URL` in the environment, it is a PostgreSQL elsewhere, which needs the package `pg`; without, it is one within
 * this program, which needs `@electric-sql/pglite`.
 *
 * @throws MantleError `no-database` when it cannot be reached, `bad-call` when it is not known where it is.
 * @example
 * const database = await openDatabase({ folder: "out/database" })
 * const store = postgresStore(database, "player-7")
 */
export async function openDatabase(options: DatabaseOptions = {}): Promise<Database> {
  const { url = process.env["DATABASE_URL"], folder, connections = 10, timeout = 5_000 } = options;
  const database = await open(url, folder, connections, timeout);
  try {
    await prepare(database);
  } catch (error) {
    await database.close();
    throw error;
  }
  return database;
}

async function open(
  url: string | undefined,
  folder: string | undefined,
  connections: number,
  timeout: number,
): Promise<Database> {
  if (url !== undefined && url !== "") {
    const { openRemote } = await loading("pg", () => import("./open-remote.ts"));
    return openRemote(url, connections, timeout);
  }
  if (folder === undefined) {
    throw new MantleError("bad-call", "Give the folder of a database, or set DATABASE_URL to where one is.");
  }
  const { openWithin } = await loading("@electric-sql/pglite", () => import("./open-within.ts"));
  return openWithin(folder);
}

/** Makes the tables. Two programs that do it at once would each fail at what the other made; so they do it one after the other. */
async function prepare(database: Database): Promise<void> {
  const schema = await readFile(new URL("../../schema/saves.sql", import.meta.url), "utf8");
  const statements = schema
    .replaceAll(/--.*/g, "")
    .split(";")
    .filter((each) => each.trim() !== "");
  const [found] = await database.query("SELECT to_regclass('mantle_requests') AS name");
  if (found?.["name"] !== null) return;
  await database.transact(async (inside) => {
    await inside.query("SELECT pg_advisory_xact_lock(7041001)");
    for (const statement of statements) await inside.query(statement);
  });
}

/** Loads what needs a package that a game may not have installed. */
async function loading<T>(name: string, load: () => Promise<T>): Promise<T> {
  return load().catch((error: unknown) => {
    if (Object(error).code !== "ERR_MODULE_NOT_FOUND") throw error;
    throw new MantleError("bad-call", `The package ${name} is not installed. Install it: npm install ${name}`);
  });
}

/** The error for a database that cannot be reached. */
export function noDatabase(name: string, error: unknown): MantleError {
  const reason = error instanceof Error ? error.message || error.name : String(error);
  return new MantleError("no-database", `The database ${name} cannot be reached: ${reason}`);
}
