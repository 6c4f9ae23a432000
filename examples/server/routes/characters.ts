import type { FastifyInstance } from "fastify";
import { applyEdit, type Character, type Context, type Edit, MantleError } from "zealous-mantle";
import { readEdit } from "zealous-mantle/judge";
import type { Game } from "../game.ts";
import type { KnownCourier } from "../known-couriers.ts";
import { Refusal } from "../refusal.ts";
import { type Account, characterOf, keyOf, readPlayer, storeCharacter } from "../saved.ts";
import type { ServerWorld } from "../server-world.ts";
import { byId, closed, revision } from "./shapes.ts";

interface ById {
  readonly Params: { readonly id: string };
}

/** Characters as the game changes them in play: by edits, on the revision that the client knows. */
export function characterRoutes(app: FastifyInstance, world: ServerWorld): void {
  const { game, database, live, pictures, known } = world;
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
    async ({ player, params: { id }, body: { revision: after, edits } }) => {
      const read = edits.map((edit) => editIn(game, edit));
      const wanted: Wanted = { player, id, after, edits: read, isNaming: read.some(isNaming) };
      const { account, character } = editKnown(world, wanted) ?? edited(game, wanted, await readFor(world, wanted));
      try {
        const next = await storeCharacter(database, player, character, after);
        known.set(player, id, { account, stored: { character, revision: next } });
        live.send(player, { key: keyOf(id), revision: next });
        return { revision: next };
      } catch (error) {
        known.forget(player);
        if (!(error instanceof MantleError && error.code === "changed-elsewhere")) throw error;
        throw new Refusal(409, "changed-elsewhere", { revision: (await readFor(world, wanted)).stored.revision });
      }
    },
  );
}

/** What a client asks for: edits of one character, after a revision. */
interface Wanted {
  readonly player: string;
  readonly id: string;
  readonly after: number;
  readonly edits: readonly Edit[];
  readonly isNaming: boolean;
}

/** A character that may be edited, and the names of the player's characters, as far as an edit needs them. */
interface Editable extends KnownCourier {
  readonly names: readonly string[];
}

async function readFor({ game, database }: ServerWorld, { player, id, isNaming }: Wanted): Promise<Editable> {
  const saves = await readPlayer(game, database, player, isNaming ? {} : { ids: [id] });
  const names = [...saves.characters.values()].map(({ character }) => character.name);
  return { account: saves.account, stored: characterOf(saves, id), names };
}

/**
 * What comes of editing the character as it is known here. `undefined` where it is not known, and where it is refused: what another server did
 * since may make the difference.
 */
function editKnown({ game, known }: ServerWorld, wanted: Wanted): Edited | undefined {
  const lately = wanted.isNaming ? undefined : known.get(wanted.player, wanted.id);
  if (lately === undefined) return undefined;
  try {
    return edited(game, wanted, { ...lately, names: [] });
  } catch (error) {
    if (error instanceof Refusal) return undefined;
    throw error;
  }
}

interface Edited {
  readonly account: Account;
  readonly character: Character;
}

/** @throws Refusal 409 where the revision is not the newest, 422 for an edit that is refused. */
function edited(game: Game, { after, edits }: Wanted, { account, stored, names }: Editable): Edited {
  if (stored.revision !== after) throw new Refusal(409, "changed-elsewhere", { revision: stored.revision });
  const taken = names.filter((name) => name !== stored.character.name);
  const context = { holdings: account.holdings, bagPlaces: game.bagPlaces, names: { taken } };
  return { account, character: editAll(game, stored.character, edits, context) };
}

/** All edits in play, one after the other. @throws Refusal 422 for the first that is refused. */
function editAll(game: Game, before: Character, edits: readonly Edit[], context: Context): Character {
  return edits.reduce((current, edit) => {
    const result = applyEdit(game.catalog, current, edit, { ...context, wardrobe: "bag" });
    if (!result.ok) throw new Refusal(422, "refused", { problems: result.problems });
    return result.character;
  }, before);
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
