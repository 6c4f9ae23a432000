import type { FastifyInstance } from "fastify";
import { decodeSave, encodeSave } from "zealous-mantle";
import { postgresStore, runOnce, type Statements, sizesOf } from "zealous-mantle/server";
import type { Game } from "../game.ts";
import { judgeSent } from "../judge.ts";
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
        if (id !== undefined) {
          const { kind, content } = savedIn(text, "character", written);
          if (kind === "character") {
            const saves = await readPlayer(game, statements, player, { isLocking: true });
            if (!saves.characters.has(id) && saves.characters.size >= game.maxCharacters)
              throw new Refusal(422, "roster-full");
            judgeSent(game, saves, id, JSON.stringify(content));
          }
        } else if (written.key === "profile") {
          if (text.length > 32_000) throw new Refusal(413, "too-large");
          savedIn(text, "profile", written);
        } else if (!freeKeys) throw new Refusal(422, "unknown-key");
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

/** What a sealed save holds that belongs just there: that, or that it was removed. @throws Refusal 422. */
function savedIn(text: string, kind: string, at: { readonly key: string; readonly revision: number }) {
  const opened = decodeSave(text, kind);
  if (!opened.ok) throw new Refusal(422, opened.code);
  const { kind: found, content } = opened;
  // The same content gives the same text, so nothing else is hidden in it.
  if (text !== encodeSave(found, content, at) || (found === "removed" && content !== null))
    throw new Refusal(422, "misplaced-save");
  return { kind: found, content };
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
