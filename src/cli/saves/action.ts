import type { Colors } from "picocolors/types.js";
import type { Migration } from "../../core/save/migrations.ts";
import type { Store } from "../../core/save/store.ts";
import type { Database } from "../../server/statements.ts";
import type { Answer } from "../output.ts";

/** What is asked of saves, besides where they are. */
export interface SavesOptions {
  /** The player whose saves they are, in a database. */
  readonly player?: string;
  /** The catalog that characters are judged by. */
  readonly catalog?: string;
  /** The module that has the migrations of the game's own kinds. */
  readonly migrations?: string;
  readonly overwrite?: boolean;
  readonly write?: boolean;
  readonly json?: boolean;
}

/** What an action is given. */
export interface SavesCall {
  readonly store: Store;
  /** The database of all players' saves, where they are in one. */
  readonly database: Database | undefined;
  /** Where the saves are, for people. */
  readonly place: string;
  /** What comes after the name of the action. */
  readonly subject: string | undefined;
  readonly options: SavesOptions;
  readonly migrations: readonly Migration[];
  readonly colors: Colors;
}

/** One thing that `mantle saves` does. */
export interface SavesAction {
  readonly name: string;
  /** What comes after its name, for help. */
  readonly takes?: string;
  readonly does: string;
  /** It is about the saves of all players, so none is named. */
  readonly isOfAllPlayers?: true;
  run(call: SavesCall): Promise<Answer>;
}

/** The sentence at the end of a plan. */
export function planned(count: number, what: string, isWritten: boolean): string {
  if (count === 0) return `There is nothing to ${what}.`;
  return isWritten ? "Done." : `Nothing was written. Run again with --write to ${what} ${count === 1 ? "it" : "them"}.`;
}
