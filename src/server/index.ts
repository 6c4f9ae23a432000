/**
 * Zealous Mantle on a server: saves in PostgreSQL, or in one that runs within the program.
 *
 * @module zealous-mantle/server
 */

export {
  type Database,
  type DatabaseOptions,
  openDatabase,
  type Row,
  type Statements,
  type Value,
} from "./database.ts";
export { postgresStore, readNewest, type ReadNewestOptions, type StoredSave } from "./postgres-store.ts";
export { doOnce, type OnceOptions, type PlayerTransaction } from "./do-once.ts";
