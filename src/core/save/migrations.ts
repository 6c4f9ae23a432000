import { MantleError } from "../base/problem.ts";
import { formNumber, type Json } from "./json.ts";

/**
 * Makes content of one form that of the next: `{ "mantle": "journal/1", … }` becomes `{ "mantle": "journal/2", … }`.
 *
 * A chain of them opens a save of any age. One that was published is never changed: a mistake is mended by the next.
 */
export interface Migration {
  readonly kind: string;
  /** The number of the form it takes; it gives the next. */
  readonly from: number;
  /** A pure function: the same content always gives the same. */
  readonly migrate: (content: Json) => Json;
}

/** The number of the newest form of a kind: 1, and one more for each migration. */
export function newestForm(kind: string, migrations: readonly Migration[]): number {
  return 1 + migrations.filter((each) => each.kind === kind).length;
}

/**
 * Content in the newest form of its kind.
 *
 * @param form - the number of the form it has.
 * @throws MantleError `bad-migration` when the chain has a gap, or a migration gives another form than the next.
 */
export function migrated(kind: string, content: Json, form: number, migrations: readonly Migration[]): Json {
  let current = content;
  for (let from = form; from < newestForm(kind, migrations); from += 1) {
    const step = migrations.find((each) => each.kind === kind && each.from === from);
    if (step === undefined) throw badMigration(kind, from, "is missing");
    current = step.migrate(current);
    if (formNumber(current, kind) !== from + 1) throw badMigration(kind, from, `gives no "${kind}/${from + 1}"`);
  }
  return current;
}

function badMigration(kind: string, from: number, because: string): MantleError {
  return new MantleError("bad-migration", `The migration from "${kind}/${from}" to "${kind}/${from + 1}" ${because}.`);
}
