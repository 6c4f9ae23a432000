import type { Store } from "../core/save/store.ts";
import { postgresStore } from "./postgres-store.ts";
import type { Database, Statements } from "./statements.ts";

/** What is at hand while a player's things are done as one. */
export interface PlayerTransaction {
  /** The player's saves, within the transaction. */
  readonly store: Store;
  readonly statements: Statements;
}

export interface OnceOptions {
  /** A name that the client gave to what it asks for. Asked again under the same name, it is not done again: the answer is the same. */
  readonly request?: string;
}

/** For so long a request is known to be done: longer than any client tries again. */
const knownFor = "1 day";

/**
 * Does several things of one player as one: all of them or none, and one after the other with whatever else is done so for this player, on
 * any server. So a purchase takes the money and hands out the thing, or neither, whatever fails in between.
 *
 * @param act - must do nothing but with what it is given, since it is undone when it throws.
 * @returns what `act` returned, which is kept as JSON when the request has a name.
 * @throws whatever `act` throws; MantleError `no-database`. Whether it was done is not known then, and asking again under the same name is safe.
 */
export function doOnce<Answer>(
  database: Database,
  player: string,
  act: (inside: PlayerTransaction) => Promise<Answer>,
  { request }: OnceOptions = {},
): Promise<Answer> {
  return database.transact(async (statements) => {
    await statements.change(lockPlayer, [player]);
    if (request !== undefined) {
      const [known] = await statements.query(readAnswer, [player, request]);
      if (known !== undefined) return JSON.parse(String(known["answer"])) as Answer;
    }
    const answer = await act({ store: postgresStore(statements, player), statements });
    if (request !== undefined) {
      await statements.change(keepAnswer, [player, request, JSON.stringify(answer)]);
      await statements.change(forgetOld, [player]);
    }
    return answer;
  });
}

/** Takes the row, and holds it until the transaction is over. */
const lockPlayer =
  "INSERT INTO mantle_players (player) VALUES ($1) ON CONFLICT (player) DO UPDATE SET player = excluded.player";
const readAnswer = "SELECT answer FROM mantle_requests WHERE player = $1 AND request = $2";
const keepAnswer = "INSERT INTO mantle_requests (player, request, answer) VALUES ($1, $2, $3)";
const forgetOld = `DELETE FROM mantle_requests WHERE player = $1 AND answered_at < now() - interval '${knownFor}'`;
