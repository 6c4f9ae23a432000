import type { FastifyInstance } from "fastify";
import { purchase } from "zealous-mantle";
import { runOnce, transferItem } from "zealous-mantle/server";
import { Refusal } from "../refusal.ts";
import { characterOf, keyOf, readPlayer, storeAccount, storeCharacter } from "../saved.ts";
import type { ServerWorld } from "../server-world.ts";
import { closed, id, part, request } from "./shapes.ts";

const count = { type: "integer", minimum: 1, maximum: 100 } as const;

/** What a player owns, and what changes that: each as a whole, and once for each name of a request. */
export function purchaseRoutes(app: FastifyInstance, { game, database, live, known }: ServerWorld): void {
  app.get("/account", { schema: { summary: "What the player owns" } }, async ({ player }) => {
    const { account } = await readPlayer(game, database, player, { ids: [] });
    return account;
  });

  app.post<{ Body: { readonly request: string; readonly character: string; readonly part: string } }>(
    "/purchases",
    {
      schema: {
        summary: "Buys a part for a character",
        description:
          "The balance is taken and the part is handed out, or neither. Asked again under the same name, it is not bought twice.",
        body: { ...closed, required: ["request", "character", "part"], properties: { request, character: id, part } },
      },
    },
    async ({ player, body }) => {
      const answer = await runOnce(
        database,
        player,
        async ({ statements }) => {
          const saves = await readPlayer(game, statements, player, { ids: [body.character], isLocking: true });
          const { account } = saves;
          const { character, revision } = characterOf(saves, body.character);
          if (!game.forSale.has(body.part)) throw new Refusal(422, "not-for-sale");
          const { holdings, balance } = account;
          const bought = purchase(game.catalog, character, body.part, { holdings, balance, bagPlaces: game.bagPlaces });
          if (!bought.ok) throw new Refusal(422, "refused", { problems: bought.problems });
          const counts = { ...account.counts, [body.part]: (account.counts[body.part] ?? 0) + 1 };
          const after = { ...account, balance: bought.balance, holdings: bought.holdings, counts };
          await storeAccount(statements, player, after, saves.accountRevision);
          const next = await storeCharacter(statements, player, bought.character, revision);
          return { balance: bought.balance, revision: next };
        },
        { request: body.request, asked: { route: "/purchases", ...body } },
      );
      known.forget(player);
      live.send(player, { key: keyOf(body.character), revision: answer.revision });
      return answer;
    },
  );

  app.post<{
    Body: {
      readonly request: string;
      readonly from: string;
      readonly to: string;
      readonly part: string;
      readonly count: number;
    };
  }>(
    "/trades",
    {
      schema: {
        summary: "Hands something from one of the player's characters to another",
        body: {
          ...closed,
          required: ["request", "from", "to", "part", "count"],
          properties: { request, from: id, to: id, part, count },
        },
      },
    },
    async ({ player, body: { request: name, from, to, part: what, count: many } }) => {
      if (from === to) throw new Refusal(422, "same-character");
      const answer = await runOnce(
        database,
        player,
        async ({ statements }) => {
          const saves = await readPlayer(game, statements, player, { ids: [from, to], isLocking: true });
          const [giver, taker] = [characterOf(saves, from), characterOf(saves, to)];
          const given = transferItem(game.catalog, giver.character, taker.character, what, many, {
            bagPlaces: game.bagPlaces,
          });
          if (!given.ok) throw new Refusal(422, "refused", { problems: given.problems });
          return {
            from: await storeCharacter(statements, player, given.from, giver.revision),
            to: await storeCharacter(statements, player, given.to, taker.revision),
          };
        },
        { request: name, asked: { route: "/trades", from, to, part: what, count: many } },
      );
      known.forget(player);
      live.send(player, { key: keyOf(from), revision: answer.from });
      live.send(player, { key: keyOf(to), revision: answer.to });
      return answer;
    },
  );
}
