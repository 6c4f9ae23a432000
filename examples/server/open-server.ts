import { existsSync } from "node:fs";
import compress from "@fastify/compress";
import cors from "@fastify/cors";
import jwt from "@fastify/jwt";
import rateLimit from "@fastify/rate-limit";
import files from "@fastify/static";
import swagger from "@fastify/swagger";
import fastify, { type FastifyInstance, type FastifyReply, type FastifyRequest } from "fastify";
import { MantleError, type Problem } from "zealous-mantle";
import type { Database } from "zealous-mantle/server";
import { alone, joinFleet } from "./fleet/fleet.ts";
import { openSharedLimits } from "./fleet/shared-limits.ts";
import type { Game } from "./game.ts";
import { openKnownCouriers } from "./known-couriers.ts";
import { type LivePages, openLivePages } from "./live.ts";
import { openPictureMaker } from "./pictures/picture-maker.ts";
import { Refusal } from "./refusal.ts";
import { characterRoutes } from "./routes/characters.ts";
import { pictureRoutes } from "./routes/pictures.ts";
import { playerRoutes } from "./routes/players.ts";
import { purchaseRoutes } from "./routes/purchases.ts";
import { saveRoutes } from "./routes/saves.ts";
import { serviceRoutes } from "./routes/service.ts";
import type { ServerWorld } from "./server-world.ts";

declare module "fastify" {
  interface FastifyRequest {
    /** Whose things it is about: whose token it has. */
    player: string;
  }
  interface FastifyContextConfig {
    /** Needs no token. */
    isOpen?: boolean;
  }
}

export interface ServerOptions {
  readonly game: Game;
  readonly database: Database;
  /** What tokens are signed with, and names of pictures: the same on all servers of the game. */
  readonly secret: string;
  /** Sites whose pages may ask, besides the server's own; `*` for all. */
  readonly origins?: readonly string[];
  /** Requests of one player in a minute. */
  readonly requestsAMinute?: number;
  /** New players from one address in a minute. Of requests with a false token, as many are answered, and sixty at least. */
  readonly newPlayersAMinute?: number;
  /** Addresses of proxies in front of the server, which say whom they ask for (`x-forwarded-for`): such as `127.0.0.1, 10.0.0.0/8`. */
  readonly trustedProxies?: string;
  /** Whether anybody who can reach the server may read its figures. */
  readonly hasMetrics?: boolean;
  /** Milliseconds within which a request has to be there whole. */
  readonly requestTimeout?: number;
  readonly freeKeys?: boolean;
  /** Threads that draw pictures. */
  readonly threads?: number;
  /** A folder of files that are served besides, where it exists. */
  readonly pages?: string;
  readonly logLevel?: string;
}

/** Builds the server; `listen` begins it, and `close` ends it once what it has taken is done. */
export async function openServer(options: ServerOptions): Promise<FastifyInstance> {
  const { game, database, secret, origins = [], requestsAMinute = 600, newPlayersAMinute = 10 } = options;
  const { freeKeys = false, threads = 1, pages, logLevel = "warn", hasMetrics = false } = options;
  const { trustedProxies = "", requestTimeout = 10_000 } = options;
  const app = fastify({
    logger: { level: logLevel, redact: ["req.headers.authorization"] },
    bodyLimit: 64_000,
    // A client that sends slowly, or nothing, holds up nobody. Node looks for such only so often, and not for bodies while the time for
    // headers is longer.
    requestTimeout,
    http: { headersTimeout: requestTimeout, connectionsCheckingInterval: Math.min(1_000, requestTimeout / 4) },
    connectionTimeout: 30_000,
    trustProxy: trustedProxies === "" ? false : trustedProxies,
    routerOptions: { maxParamLength: 1_200 },
    // What is taken for what it is not is refused, not mended.
    ajv: { customOptions: { removeAdditional: false, coerceTypes: false, allErrors: false } },
    forceCloseConnections: "idle",
  });
  const known = openKnownCouriers();
  const pictures = openPictureMaker(game, secret, threads);
  const own = openLivePages();
  // Limits count before the other servers are joined.
  let fleet = alone;
  const limits = openSharedLimits((key, timeWindow) => fleet.counted(key, timeWindow));
  if (database.isShared) {
    fleet = await joinFleet(database, {
      onChanged: (player, note) => {
        known.forget(player);
        own.send(player, note);
      },
      onCounted: limits.add,
      onGap: own.sendAll,
      onError: (error) => app.log.warn(error),
    });
  }
  const live: LivePages = {
    ...own,
    get count() {
      return own.count;
    },
    send(player, note) {
      own.send(player, note);
      fleet.changed(player, note);
    },
  };
  const world: ServerWorld = { game, database, live, pictures, known, freeKeys, newPlayersAMinute };
  let isClosing = false;
  app.addHook("preClose", async () => {
    isClosing = true;
    live.close();
  });
  app.addHook("onSend", async (_request, reply) => {
    // What was taken before the end is answered, and its connection is ended with it.
    if (isClosing) reply.header("connection", "close");
    // A refusal is short, and has nothing of anybody's.
    if (reply.statusCode >= 400) return;
    reply.header("x-content-type-options", "nosniff");
    // Whatever does not say otherwise is somebody's own.
    if (!reply.hasHeader("cache-control")) reply.header("cache-control", "no-store");
  });
  app.addHook("onClose", async () => {
    await fleet.close();
    await pictures.close();
  });

  app.setErrorHandler((error, _request, reply) => answerError(error, reply));
  app.setNotFoundHandler((_request, reply) => reply.code(404).send({ code: "unknown-route" }));
  app.decorateRequest("player", "");

  await app.register(swagger, {
    openapi: {
      info: { title: "Characters of Saltmarsh Post", version: game.catalog.version },
      components: { securitySchemes: { token: { type: "http", scheme: "bearer" } } },
      security: [{ token: [] }],
    },
  });
  if (origins.length > 0) {
    const origin = origins.includes("*") ? true : [...origins];
    await app.register(cors, { origin, methods: ["GET", "PUT", "POST", "DELETE"] });
  }
  await app.register(jwt, { secret, sign: { expiresIn: "30d" }, verify: { cache: true, algorithms: ["HS256"] } });
  app.addHook("onRequest", async (request) => {
    if (request.is404 || request.method === "OPTIONS" || isOpenTo(request.routeOptions)) return;
    const token = await request.jwtVerify<{ readonly sub?: unknown }>().catch(() => undefined);
    if (typeof token?.sub === "string") request.player = token.sub;
  });
  await app.register(rateLimit, {
    // Whoever has no token is counted by address, and may guess less often than a player may ask.
    max: (request) => (isWithoutToken(request) ? Math.max(60, newPlayersAMinute) : requestsAMinute),
    timeWindow: "1 minute",
    store: limits.Store,
    keyGenerator: ({ player, ip }) => (player === "" ? `address ${ip}` : player),
    errorResponseBuilder: () => new Refusal(429, "too-many-requests"),
    // Each answer would be longer by them; what is refused says when to come again.
    addHeaders: { "x-ratelimit-limit": false, "x-ratelimit-remaining": false, "x-ratelimit-reset": false },
    addHeadersOnExceeding: {
      "x-ratelimit-limit": false,
      "x-ratelimit-remaining": false,
      "x-ratelimit-reset": false,
    },
  });
  // After it was counted.
  app.addHook("preParsing", async (request) => {
    if (isWithoutToken(request)) throw new Refusal(401, "no-token");
  });
  // What changes something is answered in a few bytes.
  await app.register(compress, { global: false, threshold: 1_024, encodings: ["gzip"] });
  if (pages !== undefined && existsSync(pages)) {
    await app.register(files, { root: pages, prefix: "/pages/", redirect: true });
  }

  await app.register(async (routes) => {
    playerRoutes(routes, world);
    saveRoutes(routes, world);
    characterRoutes(routes, world);
    purchaseRoutes(routes, world);
    pictureRoutes(routes, world);
    serviceRoutes(app, world, hasMetrics);
    routes.get("/openapi.json", { compress: {}, schema: { hide: true } }, async () => app.swagger());
  });
  return app;
}

/** What anybody may ask for: what has no player's data in it. */
const openRoutes: ReadonlySet<string> = new Set(["/pictures/:name", "/alive", "/health", "/metrics", "/openapi.json"]);

/** Whether a request needs a token and has none that this server signed. */
function isWithoutToken({ is404, method, player, routeOptions }: FastifyRequest): boolean {
  return !is404 && method !== "OPTIONS" && player === "" && !isOpenTo(routeOptions);
}

function isOpenTo({ url = "", config }: { readonly url?: string | undefined; readonly config?: { isOpen?: boolean } }) {
  return config?.isOpen === true || openRoutes.has(url) || url.startsWith("/pages/");
}

/** Statuses of what the library and the framework throw; everything else is the server's own fault. */
const statuses: Readonly<Record<string, number>> = {
  "changed-elsewhere": 409,
  "no-database": 503,
  "try-later": 503,
  "bad-key": 400,
  "bad-content": 422,
  "other-request": 422,
  "answer-forgotten": 409,
  FST_ERR_VALIDATION: 400,
};

function answerError(error: unknown, reply: FastifyReply) {
  if (error instanceof Refusal) {
    const { status, code, problems, revision } = error;
    if (status === 429) reply.header("retry-after", "10");
    return reply.code(status).send({ code, revision, problems: briefly(problems) });
  }
  const { code, statusCode } = Object(error) as { readonly code?: unknown; readonly statusCode?: number };
  const status =
    (error instanceof MantleError ? statuses[error.code] : undefined) ?? statuses[String(code)] ?? statusCode ?? 500;
  if (status === 503) reply.header("retry-after", "1");
  if (status >= 500) reply.log.error(error);
  return reply.code(status).send({ code: status >= 500 && status !== 503 ? "server-failed" : codeOf(code, status) });
}

function codeOf(code: unknown, status: number): string {
  if (typeof code === "string" && !code.startsWith("FST_")) return code;
  return status === 413 ? "too-large" : "bad-request";
}

/** What is wrong, by code and place: the client has the same library, which finds the sentences and the fixes. */
function briefly(problems: readonly Problem<unknown>[]): readonly object[] | undefined {
  if (problems.length === 0) return undefined;
  return problems.slice(0, 3).map(({ code, place: { pointer } }) => ({ code, at: pointer.slice(0, 60) }));
}
