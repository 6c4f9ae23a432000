import { mkdtemp, rename, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll } from "@jest/globals";
import { createFromPreset, type Json, writeSave } from "zealous-mantle";
import { httpStore } from "zealous-mantle/browser";
import { freePort, type OwnPostgres, openOwnPostgres } from "../../scripts/postgres.ts";
import { type StartedServer, startServer } from "../../scripts/start-server.ts";
import { demo } from "../demo-catalog.ts";
import { type DatabaseKind, newDatabaseFolder } from "./databases.ts";
import { newPostgresDatabase } from "./shared-postgres.ts";

/** The server of the examples, as a program of its own. */
export interface RunningServer {
  readonly url: string;
  readonly postgres: OwnPostgres | undefined;
  /** The address of its database; empty for one within the program. */
  readonly database: string;
  /** Ends it by a signal. Returns the status it ended with. */
  end(signal: NodeJS.Signals): Promise<number | null>;
  /** Begins it again, at the same address, with what is stored. */
  start(): Promise<void>;
  /** What it printed since it was begun last. */
  readonly printed: string;
}

const settings = {
  REQUESTS_A_MINUTE: "10000000",
  NEW_PLAYERS_A_MINUTE: "100000",
  FREE_KEYS: "1",
  METRICS: "1",
  BALANCE: "100000",
};

export interface ServerOptions {
  /** Settings of its environment. */
  readonly settings?: Readonly<Record<string, string>>;
  /** Whether its PostgreSQL is one of its own, which may be stopped. */
  readonly isStopped?: boolean;
  /** Another server, whose database and secret it has. */
  readonly beside?: () => RunningServer;
}

/** Starts a server before the tests of a file, and ends it after them. */
export function useServer(kind: DatabaseKind, options: ServerOptions = {}): () => RunningServer {
  let server: RunningServer | undefined;
  let close = async () => {};
  beforeAll(async () => {
    const folder = await mkdtemp(join(tmpdir(), "mantle-server-"));
    if (kind !== "PostgreSQL") await rename(await newDatabaseFolder(), join(folder, "database"));
    const postgres = options.isStopped === true && kind === "PostgreSQL" ? await openOwnPostgres() : undefined;
    const database =
      options.beside?.().database ?? postgres?.url ?? (kind === "PostgreSQL" ? await newPostgresDatabase() : "");
    const port = String(await freePort());
    const place = { SERVER_FOLDER: folder, PORT: port, DATABASE_URL: database, SECRET: "the secret of all servers" };
    let started: StartedServer | undefined;
    const running: RunningServer = {
      url: `http://127.0.0.1:${port}`,
      postgres,
      database,
      get printed() {
        return started?.printed ?? "";
      },
      async end(signal) {
        const ending = started;
        started = undefined;
        return ending === undefined ? null : ending.end(signal);
      },
      async start() {
        started = await startServer({ ...settings, ...place, ...options.settings });
      },
    };
    server = running;
    close = async () => {
      await running.end("SIGTERM");
      await postgres?.remove();
      await rm(folder, { recursive: true, force: true });
    };
    await running.start();
  });
  afterAll(() => close());
  return () => {
    if (server === undefined) throw new Error("The server does not run yet.");
    return server;
  };
}

/** What a server answered. */
export interface Answer {
  readonly status: number;
  // biome-ignore lint/suspicious/noExplicitAny: what comes over the network is looked at as the tests expect it
  readonly body: any;
}

/** A player of a server, and a client of theirs. */
export interface Player {
  readonly token: string;
  readonly store: ReturnType<typeof httpStore>;
  ask(method: string, path: string, body?: object): Promise<Answer>;
}

/** Signs a new player on. */
export async function newPlayer(url: string): Promise<Player> {
  const { body } = await ask(url, "", "POST", "/players");
  return playerOf(url, body.token);
}

/** The client of a player who has a token. */
export function playerOf(url: string, token: string): Player {
  return {
    token,
    store: httpStore({ url, token, timeout: 5_000 }),
    ask: (method, path, body) => ask(url, token, method, path, body),
  };
}

async function ask(url: string, token: string, method: string, path: string, body?: object): Promise<Answer> {
  const response = await fetch(url + path, {
    method,
    headers: { authorization: `Bearer ${token}`, ...(body && { "content-type": "application/json" }) },
    ...(body && { body: JSON.stringify(body) }),
  });
  const text = await response.text();
  const isJson = response.headers.get("content-type")?.includes("json") === true;
  return { status: response.status, body: isJson ? JSON.parse(text) : text };
}

/** Stores a courier of the demo for a player. */
export async function addCourier({ store }: Player, id: string, change: object = {}): Promise<number> {
  const courier = { ...createFromPreset(demo, "first-watch", { id, name: `Courier ${id}` }), ...change };
  return writeSave(store, `character-${id}`, "character", courier as unknown as Json);
}
