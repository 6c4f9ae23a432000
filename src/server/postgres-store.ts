import { MantleError } from "../core/base/problem.ts";
import { changedElsewhere, type Generation, type Store } from "../core/save/store.ts";
import type { Row, Statements } from "./statements.ts";

/**
 * A store in PostgreSQL, for one player: a row a save, with its revision and the generations that are kept.
 *
 * Each statement is about one player alone. A write takes place where its revision is newer than what is there, and is refused else; so
 * two servers cannot overwrite each other.
 *
 * @param statements - a database, or a transaction of it.
 * @throws MantleError `no-database`, from each call, when the database cannot be reached; whether a write was done is not known then, and
 * writing the same again is safe.
 */
export function postgresStore(statements: Statements, player: string): Store {
  requireText("player", player);
  return {
    async read(key) {
      requireText("key", key);
      return (await statements.query(readAll, [player, key])).map(toGeneration);
    },
    async write(key, { revision, text }, keep) {
      requireText("key", key);
      const values = [player, key, revision, columnOf(text)];
      const [before] = keep;
      if (keep.length === 1 && (await statements.change(writeNext, [...values, before])) > 0) return;
      if ((await statements.change(writeOne, [...values, [...keep]])) === 0) throw changedElsewhere(key);
    },
    async list() {
      const rows = await statements.query("SELECT key FROM mantle_saves WHERE player = $1", [player]);
      return { keys: rows.map(({ key }) => String(key)).sort(), unknown: [] };
    },
    async remove(key) {
      requireText("key", key);
      await statements.change("DELETE FROM mantle_saves WHERE player = $1 AND key = $2", [player, key]);
    },
  };
}

/** A save as a row has it: its newest generation. */
export interface StoredSave {
  readonly key: string;
  readonly revision: number;
  readonly text: string;
}

export interface ReadNewestOptions {
  /** Which saves. @defaultValue all of the player's */
  readonly keys?: readonly string[] | undefined;
  /** Within a transaction: nobody else writes them until it is over. @defaultValue `false` */
  readonly isLocking?: boolean;
}

/** The newest generation of each of a player's saves, in one statement. */
export async function readNewest(
  statements: Statements,
  player: string,
  { keys, isLocking = false }: ReadNewestOptions = {},
): Promise<readonly StoredSave[]> {
  const where = keys === undefined ? "player = $1" : "player = $1 AND key = ANY ($2::text[])";
  const lock = isLocking ? " ORDER BY key FOR UPDATE" : "";
  const values = keys === undefined ? [player] : [player, [...keys]];
  const rows = await statements.query(`${newest} WHERE ${where}${lock}`, values);
  return rows.map(({ key, revision, content }) => ({
    key: String(key),
    revision: Number(revision),
    text: textOf(content ?? null),
  }));
}

const newest = "SELECT key, revision, content FROM mantle_saves";

/** A row a generation: an array of texts takes longer to read than rows of them. */
const readAll = `
  SELECT each.revision, each.content
  FROM mantle_saves, unnest(revision || older_revisions, content || older_contents) AS each (revision, content)
  WHERE player = $1 AND key = $2
  ORDER BY each.revision DESC`;

/** As nearly every write is: a first one, or one after the very generation that is there and that alone is kept. */
const writeNext = `
  INSERT INTO mantle_saves AS held (player, key, revision, content) VALUES ($1, $2, $3, $4)
  ON CONFLICT (player, key) DO UPDATE SET
    revision = excluded.revision,
    content = excluded.content,
    stored_at = now(),
    older_revisions = ARRAY[held.revision],
    older_contents = ARRAY[held.content]
  WHERE held.revision = $5 AND held.revision < excluded.revision`;

const writeOne = `
  INSERT INTO mantle_saves AS held (player, key, revision, content) VALUES ($1, $2, $3, $4)
  ON CONFLICT (player, key) DO UPDATE SET
    revision = excluded.revision,
    content = excluded.content,
    stored_at = now(),
    (older_revisions, older_contents) = (
      SELECT coalesce(array_agg(older.revision ORDER BY older.revision DESC), '{}'),
             coalesce(array_agg(older.content ORDER BY older.revision DESC), '{}')
      FROM unnest(held.revision || held.older_revisions, held.content || held.older_contents) AS older (revision, content)
      WHERE older.revision = ANY ($5::bigint[])
    )
  WHERE held.revision < excluded.revision`;

function toGeneration({ revision, content }: Row): Generation {
  return { revision: Number(revision), text: textOf(content) };
}

/** What stands before texts that PostgreSQL could not hold as they are. */
const mark = "\\x";

function columnOf(text: string): string {
  const isPlain = !text.includes("\0") && !text.startsWith(mark);
  return isPlain ? text : mark + Buffer.from(text, "utf8").toString("hex");
}

function textOf(column: unknown): string {
  if (typeof column !== "string") throw new TypeError("A save has no text.");
  return column.startsWith(mark) ? Buffer.from(column.slice(mark.length), "hex").toString("utf8") : column;
}

/** PostgreSQL's texts have no zero byte, and no half of a pair. */
function requireText(what: "key" | "player", text: string): void {
  if (text !== "" && !text.includes("\0") && Buffer.from(text, "utf8").toString("utf8") === text) return;
  throw new MantleError(
    "bad-key",
    `A ${what} is a text of at least one letter, without zero bytes: not ${JSON.stringify(text)}.`,
  );
}
