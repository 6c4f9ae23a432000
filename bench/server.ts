import { once } from "node:events";
import { mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Worker } from "node:worker_threads";
import files from "@fastify/static";
import fastify, { type FastifyInstance } from "fastify";
import { createFromPreset, encodeSave } from "zealous-mantle";
import { type Database, openDatabase, postgresStore } from "zealous-mantle/server";
import { type Game, loadGame } from "../examples/server/game.ts";
import { openServer } from "../examples/server/open-server.ts";

/** One of several that ask at the same time. */
export interface Lane {
  readonly url: string;
  readonly method: "GET" | "POST";
  readonly headers: Readonly<Record<string, string>>;
  readonly revision: number;
}

/** What asking came to, in milliseconds: one request of all, taken together, and the slowest but one in a hundred. */
export interface Asked {
  readonly each: number;
  readonly p99: number;
  readonly revisions: readonly number[];
}

/** A server of the game and a plain one beside it, and who asks them. */
export interface Servers {
  readonly url: string;
  readonly plainUrl: string;
  readonly game: Game;
  readonly app: FastifyInstance;
  readonly database: Database;
  ask(lanes: readonly Lane[], times: number, edits?: readonly string[]): Promise<Asked>;
  /** Puts a file where the plain server has its files. */
  putFile(name: string, bytes: Uint8Array): Promise<void>;
  close(): Promise<void>;
}

/** The ramps that edits paint with, in turn. */
export const ramps = ["indigo", "mustard", "madder", "moss"];

/** Opens both servers, each on a database of its own within this program. */
export async function openServers(): Promise<Servers> {
  const folder = await mkdtemp(join(tmpdir(), "mantle-bench-"));
  const [database, plainDatabase] = [
    await openDatabase({ url: "", folder: join(folder, "ours") }),
    await openDatabase({ url: "", folder: join(folder, "theirs") }),
  ];
  const game = await loadGame("demo/saltmarsh", 1_000);
  const settings = { requestsAMinute: 1e9, newPlayersAMinute: 1e9, logLevel: "silent" };
  const app = await openServer({ game, database, secret: "for the bench alone", ...settings });
  const plain = await openPlain(plainDatabase, folder);
  const [url, plainUrl] = [
    await app.listen({ host: "127.0.0.1", port: 0 }),
    await plain.listen({ host: "127.0.0.1", port: 0 }),
  ];
  const client = new Worker(new URL("./http-client.js", import.meta.url));
  return {
    url,
    plainUrl,
    game,
    app,
    database,
    async ask(lanes, times, edits) {
      client.postMessage({ lanes, times, edits });
      const [{ result, failure }] = await once(client, "message");
      if (failure !== undefined) throw new Error(failure);
      return result;
    },
    putFile: (name, bytes) => writeFile(join(folder, name), bytes),
    async close() {
      await client.terminate();
      await Promise.all([app.close(), plain.close()]);
      await Promise.all([database.close(), plainDatabase.close()]);
      await rm(folder, { recursive: true });
    },
  };
}

/** What a developer writes in ten minutes: the body is parsed, and a row is written with it; a folder of files is served. */
async function openPlain(database: Database, folder: string): Promise<FastifyInstance> {
  await database.query("CREATE TABLE plain (player text, id text, body text, PRIMARY KEY (player, id))");
  const plain = fastify();
  await plain.register(files, { root: folder, prefix: "/files/", maxAge: "365d", immutable: true });
  plain.post<{ Params: { readonly player: string; readonly id: string } }>("/:player/:id", async ({ params, body }) => {
    await database.query(
      "INSERT INTO plain VALUES ($1, $2, $3) ON CONFLICT (player, id) DO UPDATE SET body = excluded.body",
      [params.player, params.id, JSON.stringify(body)],
    );
    return { ok: true };
  });
  return plain;
}

/** A courier of a new player, stored. Returns how the player asks to edit it. */
export async function newCourier({ game, app, database, url }: Servers, player: string): Promise<Lane> {
  const character = createFromPreset(game.catalog, "first-watch", { id: "wren", name: "Wren" });
  const key = "character-wren";
  const text = encodeSave("character", { ...character }, { key, revision: 1 });
  await postgresStore(database, player).write(key, { revision: 1, text }, []);
  const headers = { authorization: `Bearer ${app.jwt.sign({ sub: player })}`, "content-type": "application/json" };
  return { url: `${url}/characters/wren/edits`, method: "POST", headers, revision: 1 };
}
