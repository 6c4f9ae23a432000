import { shorten } from "../core/base/limits.ts";
import { MantleError } from "../core/base/problem.ts";
import { conflictError, type Generation, type Store } from "../core/save/store.ts";
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
      requireGeneration(key, revision, text, keep);
      const values = [player, key, revision, columnOf(text)];
      const isOne = keep.length === 1 && (keep[0] ?? revision) < revision;
      const statement = keep.length === 0 ? writeFirst : isOne ? writeNext : writeLater;
      const kept = keep.length === 0 ? [] : isOne ? [keep[0]] : [[...keep]];
      if ((await statements.change(statement, [...values, ...kept])) > 0) return;
      if (isOne && (await statements.change(writeLater, [...values, [...keep]])) > 0) return;
      throw conflictError(key);
    },
    async list() {
      const rows = await statements.query(readKeys, [player]);
      const keys = rows.flatMap(({ key }) => (key === null ? [] : [String(key)]));
      return { keys: keys.sort(), unknown: [], epoch: String(rows[0]?.["epoch"]) };
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
  requireText("player", player);
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

/** The keys of a player, and the epoch of the store, which is there also for a player without any. */
const readKeys = `
  SELECT mantle_saves.key, mantle_store.epoch FROM mantle_store LEFT JOIN mantle_saves ON mantle_saves.player = $1`;

/** A first generation. */
const writeFirst = `
  INSERT INTO mantle_saves AS held (player, key, revision, content) VALUES ($1, $2, $3, $4)
  ON CONFLICT (player, key) DO UPDATE SET
    revision = excluded.revision,
    content = excluded.content,
    stored_at = now(),
    older_revisions = '{}',
    older_contents = '{}'
  WHERE held.revision < excluded.revision`;

/** As nearly every write is: after the very generation that is there and that alone is kept. It never makes a row. */
const writeNext = `
  UPDATE mantle_saves SET
    revision = $3,
    content = $4,
    stored_at = now(),
    older_revisions = ARRAY[revision],
    older_contents = ARRAY[content]
  WHERE player = $1 AND key = $2 AND revision = $5`;

const writeLater = `
  UPDATE mantle_saves AS held SET
    revision = $3,
    content = $4,
    stored_at = now(),
    (older_revisions, older_contents) = (
      SELECT coalesce(array_agg(older.revision ORDER BY older.revision DESC), '{}'),
             coalesce(array_agg(older.content ORDER BY older.revision DESC), '{}')
      FROM unnest(held.revision || held.older_revisions, held.content || held.older_contents) AS older (revision, content)
      WHERE older.revision = ANY ($5::bigint[])
    )
  WHERE player = $1 AND key = $2 AND revision < $3`;

/** How much a player has stored: the bytes of the newest generation of each save, for a limit that a server sets. */
export async function sizesOf(
  statements: Statements,
  player: string,
): Promise<readonly { readonly key: string; readonly bytes: number }[]> {
  requireText("player", player);
  const rows = await statements.query(readSizes, [player]);
  return rows.map(({ key, bytes }) => ({ key: String(key), bytes: Number(bytes) }));
}

const readSizes = "SELECT key, octet_length(content) AS bytes FROM mantle_saves WHERE player = $1";

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

/** Half of a pair, which UTF-8 does not have. */
const halfCharacter = /\p{Surrogate}/u;

/** Bytes of a key, and of a player: an index of PostgreSQL holds both together. */
const mostKeyBytes = 1_000;

/** PostgreSQL's texts have no zero byte, and no half of a pair. */
export function requireText(what: "key" | "player", text: string): void {
  const isShort = text !== "" && Buffer.byteLength(text, "utf8") <= mostKeyBytes;
  if (isShort && !text.includes("\0") && !halfCharacter.test(text)) return;
  throw new MantleError(
    "bad-key",
    `A ${what} is a text of 1 to ${mostKeyBytes} bytes, without zero bytes or half characters: not ${JSON.stringify(shorten(text))}.`,
  );
}

/** @throws MantleError `bad-content` for what would be stored as something else, or not at all. */
function requireGeneration(key: string, revision: number, text: string, keep: readonly number[]): void {
  const wrong = [revision, ...keep].find((each) => !Number.isSafeInteger(each) || each < 1);
  if (wrong !== undefined)
    throw new MantleError(
      "bad-content",
      `A revision is a whole number from 1 on: "${shorten(key)}" was to have ${wrong}.`,
    );
  if (halfCharacter.test(text))
    throw new MantleError(
      "bad-content",
      `The text of "${shorten(key)}" has half a character, which no store can hold.`,
    );
}
