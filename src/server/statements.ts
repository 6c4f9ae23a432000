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
  /**
   * Sends a statement that changes rows, and returns none of them.
   *
   * @returns how many it changed.
   * @throws as `query` does.
   */
  change(statement: string, values?: readonly unknown[]): Promise<number>;
}

/** A PostgreSQL: one that runs within this program, or one elsewhere. */
export interface Database extends Statements {
  /** What it is, for people: never with a password. */
  readonly name: string;
  /** Whether other programs may have it open at the same time. */
  readonly isShared: boolean;
  /**
   * Does statements as one: all of them, or none when it throws.
   *
   * @throws MantleError `no-database` as `query` does; `rolled-back` when a statement failed and `act` returned all the same.
   */
  transact<T>(act: (statements: Statements) => Promise<T>): Promise<T>;
  /**
   * Receives what any program sends on a channel with `pg_notify`: `SELECT pg_notify('saves', '…')`.
   *
   * @param channel - a word of lower-case letters and underlines.
   * @returns what stops it. It goes on when the database was gone meanwhile.
   */
  listen(channel: string, listener: NoticeListener): Promise<() => Promise<void>>;
  /** Ends all listening; resolves once what has begun is done. */
  close(): Promise<void>;
}

/** Receives what is sent on a channel. */
export interface NoticeListener {
  readonly onNotice: (payload: string) => void;
  /** Called when it is listened again, and something may have been sent meanwhile. */
  readonly onGap: () => void;
}

/** The error for a database that cannot be reached, or that answers that it cannot work, as on a full disk. */
export function noDatabase(name: string, error: unknown, what: "cannot be reached" | "cannot work"): MantleError {
  const reason = error instanceof Error ? error.message || error.name : String(error);
  return new MantleError("no-database", `The database ${name} ${what}: ${reason}`);
}

/** The code of PostgreSQL for a statement in a transaction in which another has failed. */
export const afterFailure = "25P02";

/** The error for a transaction that could not be committed, because one of its statements had failed. */
export function rolledBack(): MantleError {
  return new MantleError(
    "rolled-back",
    "Nothing was stored: a statement of this transaction failed, and the error was not passed on. Throw it again.",
  );
}
