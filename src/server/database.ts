import { readFile } from "node:fs/promises";
import { MantleError } from "../core/base/problem.ts";
import type { Database, Statements } from "./statements.ts";

export interface DatabaseOptions {
  /**
   * Where a PostgreSQL is, `postgres://…`; with commas between several hosts, of which the first that can be reached and stores is used.
   *
   * @defaultValue the environment's `DATABASE_URL`
   */
  readonly url?: string | undefined;
  /** Without a `url`: the folder of a PostgreSQL that runs within this program. One program at a time may open it. */
  readonly folder?: string;
  /** How many connections there are at most. @defaultValue `10` */
  readonly connections?: number;
  /** Milliseconds that a statement may take, and that a connection is waited for. @defaultValue `5000` */
  readonly timeout?: number;
  /**
   * The connections are those of a pooler that gives each transaction another one: nothing is prepared, and the timeouts of statements are
   * those of the role or the database.
   *
   * @defaultValue `false`
   */
  readonly isPooled?: boolean;
  /** Where the database itself is, behind a pooler, which passes no notices on: `listen` needs it. @defaultValue `url`, without a pooler */
  readonly listenUrl?: string | undefined;
}

/**
 * Opens a database and makes the tables that are missing in it (`schema/saves.sql`).
 *
 * With a `url`, or with `DATABASE_URL` in the environment, it is a PostgreSQL elsewhere, which needs the package `pg`; without, it is one within
 * this program, which needs `@electric-sql/pglite`.
 *
 * @throws MantleError `in-use` when another program has the folder open, `no-database` when it cannot be reached, `bad-call` when it is not known where it is, or the address is none.
 * @example
 * const database = await openDatabase({ folder: "out/database" })
 * const store = postgresStore(database, "player-7")
 */
export async function openDatabase(options: DatabaseOptions = {}): Promise<Database> {
  const database = await open(options);
  try {
    await prepare(database);
  } catch (error) {
    await database.close();
    throw error;
  }
  return database;
}

async function open({ url = process.env["DATABASE_URL"], folder, ...options }: DatabaseOptions): Promise<Database> {
  const { connections = 10, timeout = 5_000, isPooled = false } = options;
  if (url !== undefined && url !== "") {
    const { openRemote } = await loading("pg", () => import("./open-remote.ts"));
    const listenUrl = options.listenUrl ?? (isPooled ? undefined : url);
    return openRemote({ url, listenUrl, connections, timeout, isPooled });
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
  const [found] = await database.query("SELECT to_regclass('mantle_store') AS name");
  if (found?.["name"] !== null) return;
  await database.transact(async (inside) => {
    await inside.query("SELECT pg_advisory_xact_lock(7041001)");
    for (const statement of statements) await inside.query(statement);
  });
}

/**
 * Gives a database another epoch: after an older copy of it took its place, as when a backup was restored or a standby that lacked the last
 * transactions was promoted. What is stored is not changed; each device compares it anew with what it has, when it comes next.
 *
 * @returns the epoch.
 */
export async function renewEpoch(database: Statements): Promise<string> {
  const [row] = await database.query("UPDATE mantle_store SET epoch = gen_random_uuid() RETURNING epoch");
  return String(row?.["epoch"]);
}

/** Loads what needs a package that a game may not have installed. */
async function loading<T>(name: string, load: () => Promise<T>): Promise<T> {
  return load().catch((error: unknown) => {
    if (Object(error).code !== "ERR_MODULE_NOT_FOUND") throw error;
    throw new MantleError("bad-call", `The package ${name} is not installed. Install it: npm install ${name}`);
  });
}
