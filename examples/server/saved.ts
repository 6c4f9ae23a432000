import { type Character, decodeSave, encodeSave, type Json, readCharacter, readSave, writeSave } from "zealous-mantle";
import { postgresStore, readNewest, type Statements, type StoredSave } from "zealous-mantle/server";
import type { Game } from "./game.ts";
import { Refusal } from "./refusal.ts";

/** What the server keeps of a player besides characters; no client writes it. */
export interface Account {
  readonly mantle: "account/1";
  readonly balance: number;
  readonly holdings: Readonly<Record<string, "secret" | "listed" | "owned">>;
  /** How many of each part were bought. */
  readonly counts: Readonly<Record<string, number>>;
}

/** A character, and where it is stored. */
export interface StoredCharacter {
  readonly character: Character;
  readonly revision: number;
}

export const accountKey = "account";

/** UTF-16 code units of a character's save: as many as `judgeCharacter` reads. */
const longestCharacter = 32_000;

/** The key of a character's save. */
export function keyOf(id: string): string {
  return `character-${id}`;
}

/** The id of the character whose save has a key; `undefined` for another key. */
export function idIn(key: string): string | undefined {
  return key.startsWith("character-") ? key.slice("character-".length) : undefined;
}

/** What was read of a player in one statement. */
export interface PlayerSaves {
  readonly account: Account;
  /** 0 while the player has what everybody begins with. */
  readonly accountRevision: number;
  readonly characters: ReadonlyMap<string, StoredCharacter>;
}

/**
 * Reads a player's account and characters, or some of them, in one statement. Where the newest generation of a save is damaged, the one before
 * it is used.
 *
 * @param isLocking - within a transaction: nobody else changes them until it is over.
 */
export async function readPlayer(
  game: Game,
  statements: Statements,
  player: string,
  { ids, isLocking = false }: { readonly ids?: readonly string[]; readonly isLocking?: boolean } = {},
): Promise<PlayerSaves> {
  const saves = await readNewest(statements, player, { keys: ids && [accountKey, ...ids.map(keyOf)], isLocking });
  const characters = new Map<string, StoredCharacter>();
  let account: Account | undefined;
  let accountRevision = 0;
  for (const save of saves) {
    const id = idIn(save.key);
    if (id !== undefined) {
      const { character } = readCharacter(await contentOf(statements, player, save, "character"));
      if (character !== undefined) characters.set(id, { character, revision: save.revision });
    } else if (save.key === accountKey) {
      // Only this server writes it, and its seal is whole.
      account = (await contentOf(statements, player, save, "account")) as unknown as Account;
      accountRevision = save.revision;
    }
  }
  return { account: account ?? newAccount(game), accountRevision, characters };
}

/** A character by its id. @throws Refusal 404. */
export function characterOf({ characters }: PlayerSaves, id: string): StoredCharacter {
  const found = characters.get(id);
  if (found === undefined) throw new Refusal(404, "unknown-character");
  return found;
}

/**
 * Stores a character after a revision.
 *
 * @returns its new revision.
 * @throws MantleError `changed-elsewhere`.
 */
export async function storeCharacter(
  statements: Statements,
  player: string,
  character: Character,
  after: number,
): Promise<number> {
  const key = keyOf(character.id);
  const revision = after + 1;
  const text = encodeSave("character", { ...character }, { key, revision });
  // What is larger could not be judged when a client sends it back.
  if (text.length > longestCharacter) throw new Refusal(422, "too-large");
  await postgresStore(statements, player).write(key, { revision, text }, [after]);
  return revision;
}

/** Stores an account after a revision. */
export async function storeAccount(
  statements: Statements,
  player: string,
  account: Account,
  after: number,
): Promise<void> {
  await writeSave(postgresStore(statements, player), accountKey, "account", { ...account } as unknown as Json, {
    after,
  });
}

async function contentOf(
  statements: Statements,
  player: string,
  { key, text }: StoredSave,
  kind: string,
): Promise<Json | undefined> {
  const opened = decodeSave(text, kind);
  if (opened.ok) return opened.content;
  return (await readSave(postgresStore(statements, player), key, kind)).content;
}

function newAccount({ start: { balance, holdings } }: Game): Account {
  return { mantle: "account/1", balance, holdings, counts: {} };
}
