/** A cluster on this machine alone, whose pieces are killed one after the other while it is played on. */
import { mkdtemp, readFile, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { setTimeout as pause } from "node:timers/promises";
import { Client } from "pg";
import { loadCatalog } from "zealous-mantle/node";
import { mayInstall, run } from "../debian.ts";
import { freePort, openOwnPostgres } from "../postgres.ts";
import { type StartedServer, startServer } from "../start-server.ts";
import { openBalancer, openPooler } from "./parts.ts";
import { type Account, openPlayer, type Request } from "./players.ts";

/** What happened to a piece, and when, in seconds since the beginning. */
export interface Blow {
  readonly at: number;
  readonly what: string;
}

/** What came of it. */
export interface Course {
  readonly seconds: number;
  readonly players: number;
  readonly requests: readonly Request[];
  readonly blows: readonly Blow[];
  readonly confirmed: number;
  /** What is not as it was confirmed, in words; empty where everything is there exactly once. */
  readonly wrong: readonly string[];
}

/** How long is played. */
const seconds = 60;

/** Runs it once. @param say - is called with a line for each thing that happens. */
export async function runCluster(say: (line: string) => void, playerCount = 16): Promise<Course> {
  ensurePrograms();
  const closing: (() => Promise<unknown>)[] = [];
  try {
    const primary = await openOwnPostgres();
    closing.unshift(() => primary.remove());
    await makeTables(primary.url);
    const standby = await primary.openStandby();
    closing.unshift(() => standby.remove());
    // From now on nothing is confirmed that is on one disk alone.
    await sendTo(primary.url, ["ALTER SYSTEM SET synchronous_standby_names = 'standby'", "SELECT pg_reload_conf()"]);
    const pooler = await openPooler(primary.port);
    closing.unshift(() => pooler.remove());

    const either = `postgres://mantle@127.0.0.1:${primary.port},127.0.0.1:${standby.port}/postgres?target_session_attrs=read-write`;
    const folder = await mkdtemp(join(tmpdir(), "mantle-cluster-"));
    closing.push(() => rm(folder, { recursive: true, force: true }));
    const shared = {
      SECRET: "of both servers",
      SERVER_FOLDER: folder,
      TRUSTED_PROXIES: "127.0.0.1",
      BALANCE: "100000",
    };
    const limits = { REQUESTS_A_MINUTE: "1000000", NEW_PLAYERS_A_MINUTE: "1000000" };
    const servers = [
      await ownServer({ ...shared, ...limits, DATABASE_URL: pooler.url, POOLED: "1", LISTEN_URL: either }),
      await ownServer({ ...shared, ...limits, DATABASE_URL: either }),
    ] as const;
    for (const server of servers) closing.unshift(() => server.kill());
    const balancer = await openBalancer(servers.map(({ port }) => port));
    closing.unshift(() => balancer.remove());

    const url = `http://127.0.0.1:${balancer.port}`;
    const catalog = await loadCatalog("demo/saltmarsh", { art: "none" });
    say(`${playerCount} players begin, at ${url}.`);
    const requests: Request[] = [];
    let began = performance.now();
    const at = () => (performance.now() - began) / 1_000;
    const players = await Promise.all(
      Array.from({ length: playerCount }, () => openPlayer(url, catalog, at, (request) => requests.push(request))),
    );
    const blows: Blow[] = [];
    began = performance.now();
    requests.length = 0;
    let isOver = false;
    const playing = Promise.all(players.map((player) => player.play(() => isOver)));
    const plan: readonly [number, string, () => Promise<unknown>][] = [
      [5, "server A is killed", () => servers[0].kill()],
      [8, "server A begins again", () => servers[0].start()],
      [13, "server B is killed", () => servers[1].kill()],
      [16, "server B begins again", () => servers[1].start()],
      [21, "the pooler is killed", () => pooler.kill()],
      [23, "the pooler begins again", () => pooler.start()],
      [28, "the balancer is killed", () => balancer.kill()],
      [29, "the balancer begins again", () => balancer.start()],
      [34, "the standby is killed", () => standby.stop("kill")],
      [36, "the standby begins again", () => standby.start()],
      [43, "the primary is killed", () => primary.stop("kill")],
      [45, "the standby is promoted", () => standby.promote().then(() => pooler.pointAt(standby.port))],
    ];
    for (const [when, what, act] of plan) {
      await pause(Math.max(0, when * 1_000 - (performance.now() - began)));
      blows.push({ at: at(), what });
      say(`${at().toFixed(1).padStart(5)} s  ${what}`);
      await act();
    }
    await pause(Math.max(0, seconds * 1_000 - (performance.now() - began)));
    isOver = true;
    await playing;
    say(`${at().toFixed(1).padStart(5)} s  the players stop, and compare`);
    const accounts = await Promise.all(players.map((player) => player.compare()));
    const confirmed = players.reduce((sum, player) => sum + player.confirmed, 0);
    return { seconds, players: playerCount, requests, blows, confirmed, wrong: accounts.flatMap(wrongIn) };
  } finally {
    for (const close of closing) await close().catch((error: unknown) => say(String(error)));
  }
}

function wrongIn(account: Account, player: number): readonly string[] {
  return Object.entries(account).flatMap(([what, [confirmed, stored]]) =>
    confirmed === stored ? [] : [`player ${player + 1}, ${what}: confirmed ${confirmed}, stored ${stored}`],
  );
}

/** The tables, in four parts by player. */
async function makeTables(url: string): Promise<void> {
  const schema = (await readFile("schema/saves.sql", "utf8")).replaceAll(/--.*/g, "");
  const statements = schema.split(";").filter((each) => each.trim() !== "");
  const parted = statements.flatMap((statement) => {
    const name = /CREATE TABLE IF NOT EXISTS (\w+) \(\s*player\b/.exec(statement)?.[1];
    if (name === undefined) return [statement];
    const parts = Array.from(
      { length: 4 },
      (_, part) => `CREATE TABLE ${name}_${part} PARTITION OF ${name} FOR VALUES WITH (MODULUS 4, REMAINDER ${part})`,
    );
    return [`${statement.trimEnd()} PARTITION BY HASH (player)`, ...parts];
  });
  await sendTo(url, parted);
}

async function sendTo(url: string, statements: readonly string[]): Promise<void> {
  const client = new Client({ connectionString: url });
  await client.connect();
  for (const statement of statements) await client.query(statement);
  await client.end();
}

async function ownServer(settings: Readonly<Record<string, string>>) {
  const port = await freePort();
  let started: StartedServer | undefined;
  const server = {
    port,
    async start() {
      started = await startServer({ ...settings, PORT: String(port) });
    },
    async kill() {
      const ending = started;
      started = undefined;
      await ending?.end("SIGKILL");
    },
  };
  await server.start();
  return server;
}

/** Debian's pooler and balancer, installed where they are missing and we may. */
function ensurePrograms(): void {
  const isThere = (name: string) =>
    run("which", [name]) === undefined || run("ls", [`/usr/sbin/${name}`]) === undefined;
  const missing = ["pgbouncer", "haproxy"].filter((name) => !isThere(name));
  if (missing.length === 0) return;
  const wanted = missing.join(" ");
  if (!mayInstall)
    throw new Error(`The cluster needs ${wanted}. Install it (on Debian: sudo apt-get install ${wanted}).`);
  const failure =
    run("apt-get", ["update"]) ?? run("apt-get", ["install", "--yes", "--no-install-recommends", ...missing]);
  if (failure !== undefined) throw new Error(failure);
}
