import type { Character } from "../character/character.ts";
import { readCharacter } from "../character/read-character.ts";
import type { Problem } from "../problem.ts";
import { readSave, writeSave } from "../save/saves.ts";
import type { Json } from "../save/seal.ts";
import type { Store } from "../save/store.ts";

const profileKey = "profile";
const keyOf = (id: string) => `character-${id}`;

/** Everything of a profile that is not in its characters. */
export interface Arrangement {
  /** Who sits where, by seat number. */
  readonly seats: ReadonlyMap<number, string>;
  readonly order: readonly string[];
  readonly retired: readonly string[];
  /** How often cues with an id were followed, by seat number and id: `"1 first-visit"`. */
  readonly followed: ReadonlyMap<string, number>;
}

/** What a store keeps of a player. */
export interface Profile {
  readonly characters: readonly Character[];
  readonly arrangement: Arrangement;
  readonly problems: readonly Problem<unknown>[];
}

/** Reads a profile. What is damaged is reported; the rest is used. */
export async function readProfile(store: Store): Promise<Profile> {
  const characters: Character[] = [];
  const problems: Problem<unknown>[] = [];
  for (const key of await store.list()) {
    if (!key.startsWith("character-")) continue;
    const found = await readSave(store, key, "character");
    problems.push(...found.problems);
    if (found.content === undefined) continue;
    const reading = readCharacter(found.content);
    if (reading.character !== undefined) characters.push(reading.character);
    else problems.push(...reading.problems.map((problem) => ({ ...problem, place: { ...problem.place, file: key } })));
  }
  const profile = await readSave(store, profileKey, "profile");
  problems.push(...profile.problems);
  return { characters, arrangement: readArrangement(profile.content), problems };
}

function readArrangement(content: Json | undefined): Arrangement {
  const profile = recordOf(content);
  const seats = Object.entries(recordOf(profile["seats"])).flatMap(([number, id]) =>
    typeof id === "string" ? [[Number(number), id] as const] : [],
  );
  const followed = Object.entries(recordOf(profile["followed"])).flatMap(([key, count]) =>
    typeof count === "number" ? [[key, count] as const] : [],
  );
  return {
    seats: new Map(seats),
    order: listOf(profile["order"]),
    retired: listOf(profile["retired"]),
    followed: new Map(followed),
  };
}

function recordOf(value: unknown): Readonly<Record<string, unknown>> {
  return typeof value === "object" && value !== null && !Array.isArray(value) ? { ...value } : {};
}

function listOf(value: unknown): readonly string[] {
  return Array.isArray(value) ? value.filter((each): each is string => typeof each === "string") : [];
}

/** What is to be stored, and the storing of it: what changed often is written once. */
export interface Writing {
  characterChanged(id: string): void;
  arrangementChanged(): void;
  /** Resolves when everything that changed so far is stored. What failed is tried again at the next call. */
  flush(): Promise<void>;
}

/** Opens the writing of a profile. @param now - gives what a character, or the arrangement, is when it is written. */
export function openWriting(
  store: Store,
  now: { character(id: string): Character | undefined; arrangement(): Arrangement },
): Writing {
  const characters = new Set<string>();
  let isArranged = false;
  let writing: Promise<void> = Promise.resolve();
  const write = async () => {
    for (const id of characters) {
      const character = now.character(id);
      // Changed again while it is written, it is written again.
      characters.delete(id);
      if (character === undefined) continue;
      await writeSave(store, keyOf(id), "character", { ...character }).catch((error) => {
        characters.add(id);
        throw error;
      });
    }
    if (!isArranged) return;
    // The profile names characters, so it is written after them.
    isArranged = false;
    const { seats, order, retired, followed } = now.arrangement();
    const content = { seats: Object.fromEntries(seats), order, retired, followed: Object.fromEntries(followed) };
    await writeSave(store, profileKey, "profile", content).catch((error) => {
      isArranged = true;
      throw error;
    });
  };
  return {
    characterChanged: (id) => void characters.add(id),
    arrangementChanged() {
      isArranged = true;
    },
    flush() {
      writing = writing.catch(() => undefined).then(write);
      return writing;
    },
  };
}
