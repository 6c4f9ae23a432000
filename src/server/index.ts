/**
 * Zealous Mantle on a server: saves in PostgreSQL, or in one that runs within the program; what belongs together is done as one.
 *
 * @module zealous-mantle/server
 */

export { type DatabaseOptions, openDatabase, renewEpoch } from "./database.ts";
export type { Database, NoticeListener, Row, Statements, Value } from "./statements.ts";
export { postgresStore, type ReadNewestOptions, readNewest, type StoredSave, sizesOf } from "./postgres-store.ts";
export { runOnce, type OnceOptions, type PlayerTransaction } from "./run-once.ts";
export { type Transfer, transferItem } from "../core/character/bag/transfer-item.ts";
