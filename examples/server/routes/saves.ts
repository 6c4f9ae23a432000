import type { FastifyInstance } from "fastify";
import { judgeSave } from "zealous-mantle/judge";
import { postgresStore, runOnce, type Statements, sizesOf } from "zealous-mantle/server";
import type { Game } from "../game.ts";
import { rightsOf } from "../judge.ts";
import { Refusal } from "../refusal.ts";
import { accountKey, idIn, readPlayer } from "../saved.ts";
import type { ServerWorld } from "../server-world.ts";
import { closed, revision, writtenRevision } from "./shapes.ts";

const key = { type: "string", minLength: 1, maxLength: 128 } as const;
const ofKey = { ...closed, required: ["key"], properties: { key } } as const;

/** A player's saves as a store: `httpStore` speaks it. Whatever is written is judged on the way in. */
export function saveRoutes(app: FastifyInstance, { game, database, live, known, freeKeys }: ServerWorld): void {
  app.get("/saves", { compress: {}, schema: { summary: "The keys of the player's saves" } }, async ({ player }) => {
    const { keys, epoch } = await postgresStore(database, player).list();
    return { keys: keys.filter((each) => each !== accountKey), epoch };
  });

  app.get<{ Querystring: { readonly key: string } }>(
    "/save",
    { compress: {}, schema: { summary: "The generations of a save, newest first", querystring: ofKey } },
    async ({ player, query }) => ({ generations: await postgresStore(database, player).read(ownKey(query.key)) }),
  );

  app.put<{
    Querystring: { readonly key: string; readonly revision: string };
    Body: { readonly text: string; readonly keep: readonly number[] };
  }>(
    "/save",
    {
      bodyLimit: freeKeys ? 4_000_000 : 256_000,
      schema: {
        summary: "Stores a generation of a save, which must be newer than what is there",
        querystring: {
          ...closed,
          required: ["key", "revision"],
          properties: { key, revision: writtenRevision },
        },
        body: {
          ...closed,
          required: ["text", "keep"],
          properties: { text: { type: "string" }, keep: { type: "array", maxItems: 16, items: revision } },
        },
      },
    },
    async ({ player, query, body: { text, keep } }, reply) => {
      const written = { key: ownKey(query.key), revision: Number(query.revision) };
      await runOnce(database, player, async ({ store, statements }) => {
        await requireRoom(statements, player, game, written.key, text);
        const id = idIn(written.key);
        if (id === undefined && written.key !== "profile") {
          if (!freeKeys) throw new Refusal(422, "unknown-key");
        } else {
          const saves = id === undefined ? undefined : await readPlayer(game, statements, player, { isLocking: true });
          const had = saves === undefined || id === undefined ? {} : rightsOf(game, saves, id);
          const judged = judgeSave(game.catalog, written.key, written.revision, text, had);
          if (!judged.accepted) throw new Refusal(422, "refused", { problems: judged.problems });
          const isNew = judged.character !== undefined && saves?.characters.has(judged.character.id) === false;
          if (isNew && saves.characters.size >= game.maxCharacters) throw new Refusal(422, "roster-full");
        }
        await store.write(written.key, { revision: written.revision, text }, keep);
      });
      known.forget(player);
      live.send(player, written);
      reply.code(204);
    },
  );
}

/** @throws Refusal 403 for what no client reads or writes. */
function ownKey(key: string): string {
  if (key === accountKey) throw new Refusal(403, "not-yours");
  return key;
}

/** @throws Refusal 422 where a player would store more than all their saves together may be. */
async function requireRoom(
  statements: Statements,
  player: string,
  { maxSaves, maxStored }: Game,
  written: string,
  text: string,
): Promise<void> {
  const others = (await sizesOf(statements, player)).filter(({ key: each }) => each !== written);
  const stored = others.reduce((sum, { bytes }) => sum + bytes, Buffer.byteLength(text));
  if (others.length >= maxSaves || stored > maxStored) throw new Refusal(422, "no-room");
}
