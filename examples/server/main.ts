/** The server of the demo: `npm run server`. */
import { randomBytes } from "node:crypto";
import { mkdir, readFile, writeFile } from "node:fs/promises";
import { fileURLToPath } from "node:url";
import closeWithGrace from "close-with-grace";
import { openDatabase } from "zealous-mantle/server";
import { loadGame } from "./game.ts";
import { openServer } from "./open-server.ts";

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));
const { env } = process;
const folder = env["SERVER_FOLDER"] ?? here("../../out/server");
const number = (name: string, otherwise: number) => {
  const value = Number(env[name] ?? otherwise);
  if (Number.isFinite(value) && value >= 0) return value;
  console.error(`${name} is ${JSON.stringify(env[name])}. Set it to a number, or leave it out for ${otherwise}.`);
  process.exit(2);
};

await mkdir(folder, { recursive: true });
const database = await openDatabase({
  folder: `${folder}/database`,
  connections: number("CONNECTIONS", 10),
  isPooled: env["POOLED"] === "1",
  listenUrl: env["LISTEN_URL"],
});
const game = await loadGame(here("../../demo/saltmarsh"), number("BALANCE", 60));
const app = await openServer({
  game,
  database,
  secret: env["SECRET"] ?? (await keptSecret()),
  origins: (env["ORIGINS"] ?? "http://localhost:5173,http://127.0.0.1:5173").split(","),
  requestsAMinute: number("REQUESTS_A_MINUTE", 600),
  newPlayersAMinute: number("NEW_PLAYERS_A_MINUTE", 10),
  freeKeys: env["FREE_KEYS"] === "1",
  trustedProxies: env["TRUSTED_PROXIES"] ?? "",
  hasMetrics: env["METRICS"] === "1",
  requestTimeout: number("REQUEST_SECONDS", 10) * 1_000,
  pages: here("../../out/examples"),
  logLevel: env["LOG_LEVEL"] ?? "warn",
});
closeWithGrace({ delay: 10_000, logger: app.log }, async ({ err }) => {
  if (err !== undefined) app.log.fatal(err);
  await app.close();
  await database.close();
});
const url = await app.listen({ host: env["HOST"] ?? "127.0.0.1", port: number("PORT", 8080) });

console.log(`The server of ${game.catalog.id} is at ${url}, with the database ${database.name}.

Try it:
  curl -s -X POST ${url}/players                    a new player and a token
  curl -s ${url}/roster -H "authorization: Bearer TOKEN"
  curl -s ${url}/openapi.json                       everything it answers to
  curl -s ${url}/health                             whether it can store

With npm start beside it, the creator keeps its characters here:
  http://localhost:5173/creator/?server=${url}

Ctrl+C ends it, once what it has taken is done.`);

/** A secret that lasts as long as the folder. */
async function keptSecret(): Promise<string> {
  const file = `${folder}/secret`;
  const known = await readFile(file, "utf8").catch(() => undefined);
  if (known !== undefined) return known;
  const secret = randomBytes(32).toString("hex");
  await writeFile(file, secret, { mode: 0o600 });
  return secret;
}
