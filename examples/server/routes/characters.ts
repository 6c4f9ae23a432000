import type { FastifyInstance } from "fastify";
import { applyEdit, type Character, type Context, type Edit, MantleError } from "zealous-mantle";
import { readEdit } from "zealous-mantle/judge";
import type { Game } from "../game.ts";
import type { KnownCourier } from "../known-couriers.ts";
import { Refusal } from "../refusal.ts";
import { characterOf, keyOf, readPlayer, storeCharacter } from "../saved.ts";
import type { ServerWorld } from "../server-world.ts";
import { byId, closed, revision } from "./shapes.ts";

interface ById {
  readonly Params: { readonly id: string };
}

/** Characters as the game changes them in play: by edits, on the revision that the client knows. */
export function characterRoutes(app: FastifyInstance, { game, database, live, pictures, known }: ServerWorld): void {
  app.get("/roster", { compress: {}, schema: { summary: "The player's characters" } }, async ({ player }) => {
    const { characters } = await readPlayer(game, database, player);
    const roster = [...characters.values()].map(({ character: { id, name, body }, revision }) => ({
      id,
      name,
      body,
      revision,
    }));
    return { roster: roster.sort((one, other) => (one.id < other.id ? -1 : 1)) };
  });

  app.get<ById>(
    "/characters/:id",
    { compress: {}, schema: { summary: "A character and its revision", ...byId } },
    async ({ player, params: { id } }) => characterOf(await readPlayer(game, database, player, { ids: [id] }), id),
  );

  app.get<ById>(
    "/characters/:id/pictures",
    { schema: { summary: "Where the pictures of a character are, as it looks now", ...byId } },
    async ({ player, params: { id } }) => {
      const { character } = characterOf(await readPlayer(game, database, player, { ids: [id] }), id);
      const names = Object.entries(pictures.namesOf(character));
      return Object.fromEntries(names.map(([kind, name]) => [kind, `/pictures/${name}`]));
    },
  );

  app.post<ById & { Body: { readonly revision: number; readonly edits: readonly unknown[] } }>(
    "/characters/:id/edits",
    {
      schema: {
        summary: "Changes a character by edits: all of them, or none",
        description:
          "Edits are judged as play has it: only what is carried can be put on. A revision that is not the newest any more is refused with 409 and the newest.",
        ...byId,
        body: {
          ...closed,
          required: ["revision", "edits"],
          properties: { revision, edits: { type: "array", minItems: 1, maxItems: 50 } },
        },
      },
    },
    async ({ player, params: { id }, body }) => {
      const edits = body.edits.map((edit) => editIn(game, edit));
      const isNamed = edits.some(isNaming);
      const lately = isNamed ? undefined : known.get(player, id);
      const read = async (): Promise<KnownCourier & { readonly names: readonly string[] }> => {
        const saves = await readPlayer(game, database, player, isNamed ? {} : { ids: [id] });
        const names = [...saves.characters.values()].map(({ character }) => character.name);
        return { account: saves.account, stored: characterOf(saves, id), names };
      };
      const edit = ({ account, stored, names }: KnownCourier & { readonly names: readonly string[] }) => {
        if (stored.revision !== body.revision)
          throw new Refusal(409, "changed-elsewhere", { revision: stored.revision });
        const taken = names.filter((name) => name !== stored.character.name);
        const context = { holdings: account.holdings, bagPlaces: game.bagPlaces, names: { taken } };
        return { account, character: editAll(game, stored.character, edits, context) };
      };
      // What another server did since it was known here may make the difference.
      const edited = lately && orUndefined(() => edit({ ...lately, names: [] }));
      const { account, character } = edited ?? edit(await read());
      const next = await storeCharacter(database, player, character, body.revision).catch(async (error: unknown) => {
        known.forget(player);
        if (!(error instanceof MantleError && error.code === "changed-elsewhere")) throw error;
        throw new Refusal(409, "changed-elsewhere", { revision: (await read()).stored.revision });
      });
      known.set(player, id, { account, stored: { character, revision: next } });
      live.send(player, { key: keyOf(id), revision: next });
      return { revision: next };
    },
  );
}

/** All edits in play, one after the other. @throws Refusal 422 for the first that is refused. */
function editAll(game: Game, before: Character, edits: readonly Edit[], context: Context): Character {
  return edits.reduce((current, edit) => {
    const result = applyEdit(game.catalog, current, edit, { ...context, wardrobe: "bag" });
    if (!result.ok) throw new Refusal(422, "refused", { problems: result.problems });
    return result.character;
  }, before);
}

/** What it returns; `undefined` where it is refused. */
function orUndefined<T>(act: () => T): T | undefined {
  try {
    return act();
  } catch (error) {
    if (error instanceof Refusal) return undefined;
    throw error;
  }
}

/** @throws Refusal 422 for what is no edit, or answers what nobody asked. */
function editIn(game: Game, source: unknown): Edit {
  const { edit, problems } = readEdit(game.catalog, source);
  if (edit === undefined) throw new Refusal(422, "not-an-edit", { problems });
  return edit;
}

/** Whether an edit may give a name, which other characters may have. */
function isNaming(edit: Edit): boolean {
  return JSON.stringify(edit).includes('"rename"');
}
