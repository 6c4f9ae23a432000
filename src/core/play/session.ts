import type { Catalog } from "../catalog/catalog.ts";
import type { Character } from "../character/character.ts";
import { readCharacter } from "../character/read-character.ts";
import { MantleError, type Problem } from "../problem.ts";
import { readSave, writeSave } from "../save/saves.ts";
import type { Json } from "../save/seal.ts";
import type { Store } from "../save/store.ts";

export interface SessionOptions {
  readonly catalog: Catalog;
  readonly store: Store;
}

/** A place at the game that one player controls. */
export interface Seat {
  readonly number: number;
  /** Who sits here now. */
  readonly character: Character | undefined;
  /**
   * Seats a character of the roster here.
   *
   * @throws MantleError `unknown-character`.
   */
  take(id: string): void;
}

/** What outlives a scene: the roster, who sits where, and their saves. */
export interface Session {
  readonly catalog: Catalog;
  /** What was wrong with saves when the session was opened. */
  readonly problems: readonly Problem<unknown>[];
  /** The roster, sorted by id. */
  readonly characters: readonly Character[];
  /** A seat by its number, from 1. */
  seat(number: number): Seat;
  /** Puts a character in the roster, in place of the one with its id; stored at the next flush. */
  keep(character: Character): void;
  /** Calls back after each change of the roster or the seats. Returns what stops it. */
  on(event: "change", listener: () => void): () => void;
  /**
   * Resolves when everything kept so far is stored.
   *
   * @throws whatever the store failed with; what failed is tried again at the next flush.
   */
  flush(): Promise<void>;
}

const profileKey = "profile";
const characterKey = (id: string) => `character-${id}`;

/**
 * Opens the session kept in a store. Every scene makes this same call, and finds the same characters in the same seats.
 *
 * A damaged save is reported in `problems`, and the one before it is used.
 *
 * @example
 * const session = await openSession({ catalog, store })
 * const player = session.seat(1).character
 */
export async function openSession({ catalog, store }: SessionOptions): Promise<Session> {
  const { roster, seats, problems } = await readProfile(store);
  const listeners = new Set<() => void>();
  const pending = new Map<string, () => Promise<void>>();
  let writing: Promise<void> = Promise.resolve();

  const changed = (key: string, kind: string, content: () => Json) => {
    pending.set(key, () => writeSave(store, key, kind, content()));
    for (const listener of listeners) listener();
  };

  const seat = (number: number): Seat => ({
    number,
    get character() {
      return roster.get(seats.get(number) ?? "");
    },
    take(id) {
      if (!roster.has(id))
        throw new MantleError("unknown-character", `There is no character "${id}" in the roster. Keep it first.`);
      seats.set(number, id);
      changed(profileKey, "profile", () => ({ seats: Object.fromEntries(seats) }));
    },
  });

  const write = async () => {
    // The profile names characters, so it is written after them.
    const order = [...pending].sort(([one], [other]) => Number(one === profileKey) - Number(other === profileKey));
    for (const [key, save] of order) {
      await save();
      if (pending.get(key) === save) pending.delete(key);
    }
  };

  return {
    catalog,
    problems,
    get characters() {
      return [...roster.values()].sort((one, other) => (one.id < other.id ? -1 : 1));
    },
    seat(number) {
      if (!Number.isInteger(number) || number < 1)
        throw new MantleError("bad-seat", `${number} is not a seat. Seats are numbered from 1.`);
      return seat(number);
    },
    keep(character) {
      roster.set(character.id, character);
      changed(characterKey(character.id), "character", () => ({ ...character }));
    },
    on(_event, listener) {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    flush() {
      writing = writing.catch(() => undefined).then(write);
      return writing;
    },
  };
}

async function readProfile(store: Store) {
  const roster = new Map<string, Character>();
  const problems: Problem<unknown>[] = [];
  for (const key of await store.list()) {
    if (!key.startsWith("character-")) continue;
    const found = await readSave(store, key, "character");
    problems.push(...found.problems);
    if (found.content === undefined) continue;
    const reading = readCharacter(found.content);
    if (reading.character !== undefined) roster.set(reading.character.id, reading.character);
    else problems.push(...reading.problems.map((problem) => ({ ...problem, place: { ...problem.place, file: key } })));
  }
  const profile = await readSave(store, profileKey, "profile");
  problems.push(...profile.problems);
  return { roster, seats: readSeats(profile.content), problems };
}

function readSeats(content: Json | undefined): Map<number, string> {
  const seats = new Map<number, string>();
  const stored = typeof content === "object" && content !== null && "seats" in content ? content.seats : undefined;
  if (typeof stored !== "object" || stored === null) return seats;
  for (const [number, id] of Object.entries(stored)) {
    if (typeof id === "string") seats.set(Number(number), id);
  }
  return seats;
}
