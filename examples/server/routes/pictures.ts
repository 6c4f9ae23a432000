import type { FastifyInstance } from "fastify";
import { Refusal } from "../refusal.ts";
import type { ServerWorld } from "../server-world.ts";
import { closed } from "./shapes.ts";

/** Pictures by the content that made them: anybody who has the address may keep them for ever. */
export function pictureRoutes(app: FastifyInstance, { pictures }: ServerWorld): void {
  app.get<{ Params: { readonly name: string } }>(
    "/pictures/:name",
    {
      schema: {
        summary: "A picture of a look, as PNG",
        params: { ...closed, required: ["name"], properties: { name: { type: "string", maxLength: 1100 } } },
      },
    },
    async ({ params: { name }, headers }, reply) => {
      const picture = pictures.picture(name);
      if (picture === undefined) throw new Refusal(404, "unknown-picture");
      const tag = `"${name.slice(0, 32)}"`;
      reply.headers({ "cache-control": "public, max-age=31536000, immutable", etag: tag, "content-type": "image/png" });
      if (headers["if-none-match"] === tag) return reply.code(304).send();
      return reply.send(await picture);
    },
  );
}
