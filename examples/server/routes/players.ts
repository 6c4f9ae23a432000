import { randomUUID } from "node:crypto";
import type { FastifyInstance } from "fastify";
import type { ServerWorld } from "../server-world.ts";

/** Who plays. A game that has accounts of its own gives tokens where it signs players in, and has no such route. */
export function playerRoutes(app: FastifyInstance, { live, newPlayersAMinute }: ServerWorld): void {
  app.post(
    "/players",
    {
      config: { isOpen: true, rateLimit: { max: newPlayersAMinute, timeWindow: "1 minute" } },
      schema: { summary: "A new player, and the token that proves it" },
    },
    async (_request, reply) => {
      const player = randomUUID();
      reply.code(201);
      return { player, token: app.jwt.sign({ sub: player }) };
    },
  );

  app.get(
    "/live",
    { schema: { summary: "What happens to the player's saves elsewhere, as server-sent events" } },
    (request, reply) => {
      reply.hijack();
      const { raw } = reply;
      // What plugins have set so far, such as for pages of other sites.
      for (const [name, value] of Object.entries(reply.getHeaders()))
        if (value !== undefined) raw.setHeader(name, value);
      if (!live.add(request.player, raw)) {
        raw.writeHead(429).end();
        return;
      }
      raw.writeHead(200, { "content-type": "text/event-stream", "cache-control": "no-store" });
      raw.write(":\n\n");
    },
  );
}
