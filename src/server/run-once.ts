import { createHash } from "node:crypto";
import { canonicalText } from "../core/base/canonical-text.ts";
import { MantleError } from "../core/base/problem.ts";
import type { Json } from "../core/save/json.ts";
import type { Store } from "../core/save/store.ts";
import { postgresStore, requireText } from "./postgres-store.ts";
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
  /** What is asked for under that name, as the route and its body. Another thing under the same name is refused. @defaultValue `null` */
  readonly asked?: Json;
  /** Days for which answers are kept. The name is kept after that, and what it asked for is refused rather than done again. @defaultValue `30` */
  readonly keptDays?: number;
}

/**
 * Does several things of one player as one: all of them or none, and one after the other with whatever else is done so for this player, on
 * any server. So a purchase takes the money and hands out the thing, or neither, whatever fails in between.
 *
 * @param act - must do nothing but with what it is given, since it is undone when it throws, and when one of its statements failed.
 * @returns what `act` returned, which is kept as JSON when the request has a name.
 * @throws whatever `act` throws; MantleError `no-database`: whether it was done is not known then, and asking again under the same name is
 * safe; `rolled-back` when `act` returned although a statement failed; `other-request` when the name was given to something else;
 * `answer-forgotten` when it was done so long ago that its answer is not kept any more.
 */
export function runOnce<Answer>(
  database: Database,
  player: string,
  act: (inside: PlayerTransaction) => Promise<Answer>,
  { request, asked = null, keptDays = 30 }: OnceOptions = {},
): Promise<Answer> {
  requireText("player", player);
  return database.transact(async (statements) => {
    await statements.change(lockPlayer, [player]);
    const hash = createHash("sha256").update(canonicalText(asked)).digest("hex");
    if (request !== undefined) {
      const [known] = await statements.query(readAnswer, [player, request]);
      if (known !== undefined) return answerIn(request, known["asked"] === hash, known["answer"]) as Answer;
    }
    const answer = await act({ store: postgresStore(statements, player), statements });
    if (request !== undefined) {
      await statements.change(keepAnswer, [
        player,
        request,
        hash,
        answer === undefined ? nothing : JSON.stringify(answer),
      ]);
      await statements.change(forgetOld, [player, keptDays]);
    }
    return answer;
  });
}

function answerIn(request: string, isSame: boolean, answer: unknown): unknown {
  if (!isSame)
    throw new MantleError(
      "other-request",
      `"${request}" is the name of another request. Give each thing that is asked for a name of its own.`,
    );
  if (typeof answer !== "string")
    throw new MantleError(
      "answer-forgotten",
      `"${request}" was done already, so long ago that its answer is not kept any more. It is not done again.`,
    );
  return answer === nothing ? undefined : JSON.parse(answer);
}

/** In the place of an answer, where nothing was returned: no JSON. */
const nothing = "";

/** Takes the row, and holds it until the transaction is over. */
const lockPlayer =
  "INSERT INTO mantle_players (player) VALUES ($1) ON CONFLICT (player) DO UPDATE SET player = excluded.player";
const readAnswer = "SELECT asked, answer FROM mantle_requests WHERE player = $1 AND request = $2";
const keepAnswer = "INSERT INTO mantle_requests (player, request, asked, answer) VALUES ($1, $2, $3, $4)";
const forgetOld = `
  UPDATE mantle_requests SET answer = NULL
  WHERE player = $1 AND answer IS NOT NULL AND answered_at < now() - make_interval(days => $2::int)`;
