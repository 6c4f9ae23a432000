import type { FastifyInstance } from "fastify";
import { applyEdit, type Character, type Edit, MantleError, readEdit } from "zealous-mantle";
import { Refusal } from "../refusal.ts";
import { characterOf, keyOf, readPlayer, storeCharacter } from "../saved.ts";
import type { ServerWorld } from "../server-world.ts";
import { byId, closed, revision } from "./shapes.ts";

interface ById {
  readonly Params: { readonly id: string };
}

/** Characters as the game changes them in play: by edits, on the revision that the client knows. */
export function characterRoutes(app: FastifyInstance, { game, database, live, pictures }: ServerWorld): void {
  app.get("/roster", { schema: { summary: "The player's characters" } }, async ({ player }) => {
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
    { schema: { summary: "A character and its revision", ...byId } },
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
      const edits = body.edits.map(formOf);
      const saves = await readPlayer(game, database, player, edits.some(isNaming) ? {} : { ids: [id] });
      const stored = characterOf(saves, id);
      if (stored.revision !== body.revision) throw new Refusal(409, "changed-elsewhere", { revision: stored.revision });
      const names = [...saves.characters.values()].map(({ character }) => character.name);
      const taken = names.filter((name) => name !== stored.character.name);
      const { holdings } = saves.account;
      const context = { wardrobe: "bag", holdings, bagPlaces: game.bagPlaces, names: { taken } } as const;
      const character = edits.reduce((current: Character, edit) => {
        const result = applyEdit(game.catalog, current, edit, context);
        if (!result.ok) throw new Refusal(422, "refused", { problems: result.problems });
        return result.character;
      }, stored.character);
      const next = await storeCharacter(database, player, character, stored.revision).catch(async (error: unknown) => {
        if (!(error instanceof MantleError && error.code === "changed-elsewhere")) throw error;
        const { revision } = characterOf(await readPlayer(game, database, player, { ids: [id] }), id);
        throw new Refusal(409, "changed-elsewhere", { revision });
      });
      live.send(player, { key: keyOf(id), revision: next });
      return { revision: next };
    },
  );
}

/** @throws Refusal 422 for what is no edit. */
function formOf(source: unknown): Edit {
  const { edit, problems } = readEdit(source);
  if (edit === undefined) throw new Refusal(422, "not-an-edit", { problems });
  return edit;
}

/** Whether an edit may give a name, which other characters may have. */
function isNaming(edit: Edit): boolean {
  return JSON.stringify(edit).includes('"rename"');
}
