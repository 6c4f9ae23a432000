import type { FastifyInstance } from "fastify";
import { collectDefaultMetrics, Gauge, Histogram, Registry } from "prom-client";
import type { ServerWorld } from "../server-world.ts";

/** What those who run the server ask: whether it lives, whether it can work, and how much it does. No player's data is in it. */
export function serviceRoutes(
  app: FastifyInstance,
  { database, live, pictures }: ServerWorld,
  hasMetrics: boolean,
): void {
  const register = new Registry();
  collectDefaultMetrics({ register });
  const seconds = new Histogram({
    name: "http_request_seconds",
    help: "How long requests take, by route and status",
    labelNames: ["method", "route", "status"],
    buckets: [0.001, 0.0025, 0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 1, 5],
    registers: [register],
  });
  new Gauge({
    name: "live_pages",
    help: "Pages that listen",
    registers: [register],
    collect() {
      this.set(live.count);
    },
  });
  new Gauge({
    name: "pictures_made",
    help: "Pictures that were made since the start",
    registers: [register],
    collect() {
      this.set(pictures.made);
    },
  });
  app.addHook("onResponse", async (request, reply) => {
    const route = request.routeOptions.url ?? "none";
    seconds.observe({ method: request.method, route, status: reply.statusCode }, reply.elapsedTime / 1000);
  });

  // Whoever watches asks often, and must not be told that there is no time for it.
  const config = { rateLimit: false } as const;
  app.get(
    "/alive",
    { config, schema: { summary: "Whether the program runs: where it does not answer, start it anew" } },
    () => ({
      ok: true,
    }),
  );
  app.get(
    "/health",
    { config, schema: { summary: "Whether the server can store: where it answers 503, send it no players" } },
    async () => {
      await database.change("UPDATE mantle_store SET one = one");
      return { ok: true };
    },
  );
  if (!hasMetrics) return;
  app.get("/metrics", { schema: { summary: "Figures in the text format of OpenMetrics" } }, async (_request, reply) => {
    reply.type(register.contentType);
    return register.metrics();
  });
}
