import type { ParamsOf } from "../base/message.ts";
import { MantleError, type Problem } from "../base/problem.ts";
import type { Character } from "../character/character.ts";
import { readCharacter } from "../character/read-character.ts";
import type { Json } from "../save/json.ts";
import { type FoundSave, readSave, removeSave, writeSave } from "../save/saves.ts";
import type { Store } from "../save/store.ts";

const profileKey = "profile";
const characterPrefix = "character-";
const keyOf = (id: string) => characterPrefix + id;

/** The id of the character that is stored under a key; `undefined` for another key. */
export function idIn(key: string): string | undefined {
  return key.startsWith(characterPrefix) ? key.slice(characterPrefix.length) : undefined;
}

/** Everything of a profile that is not in its characters. */
export interface Arrangement {
  /** Who sits where, by seat number. */
  readonly seats: ReadonlyMap<number, string>;
  /** Which device was last at a seat, by its number. */
  readonly devices: ReadonlyMap<number, string>;
  readonly order: readonly string[];
  readonly retired: readonly string[];
  /** How often cues with an id were followed, by seat number and id: `"1 first-visit"`. */
  readonly cueCounts: ReadonlyMap<string, number>;
}

function isConflict(error: unknown): boolean {
  return error instanceof MantleError && error.code === "changed-elsewhere";
}

/** What a store keeps of a player. */
export interface Profile {
  readonly characters: readonly Character[];
  readonly arrangement: Arrangement;
  /** What was read of each key: what is written has to come after it. */
  readonly revisions: ReadonlyMap<string, number>;
  /** No generation of the arrangement is whole: it is stored anew with the next flush, so that it is reported once. */
  readonly isArrangementDamaged: boolean;
  readonly problems: readonly Problem<unknown>[];
}

/**
 * Reads a profile. What cannot be read, is damaged, or is not where it belongs is reported; the rest is used.
 *
 * @throws whatever the store failed with when it could not list its keys.
 */
export async function readProfile(store: Store): Promise<Profile> {
  const { keys, unknown } = await store.list();
  const problems: Problem<unknown>[] = unknown.map(unknownEntry);
  const revisions = new Map<string, number>();
  const characters: Character[] = [];
  const read = async (key: string, kind: string) => {
    const found = await readSave(store, key, kind).catch((error: unknown) => unreadable(key, error));
    problems.push(...found.problems);
    revisions.set(key, found.revision);
    return found;
  };
  for (const key of keys) {
    if (!key.startsWith(characterPrefix)) continue;
    const { content } = await read(key, "character");
    if (content === undefined) continue;
    const { character, problems: found } = readCharacter(content);
    if (character === undefined)
      problems.push(...found.map((problem) => ({ ...problem, place: { ...problem.place, file: key } })));
    else if (keyOf(character.id) === key) characters.push(character);
    else problems.push(misplaced(key, character.id));
  }
  const profile = await read(profileKey, "profile");
  if (characters.length > 0 && !keys.includes(profileKey)) problems.push(missingProfile());
  const arrangement = readArrangement(profile.content);
  const isDamaged = profile.problems.length > 0 && profile.problems.every(({ code }) => code === "damaged-save");
  const known = new Set(characters.map(({ id }) => id));
  const named = new Set([...arrangement.order, ...arrangement.retired, ...arrangement.seats.values()]);
  // One whose save is there has been reported with it.
  for (const id of named) if (!known.has(id) && !revisions.has(keyOf(id))) problems.push(missingCharacter(id));
  return {
    characters,
    arrangement,
    revisions,
    isArrangementDamaged: isDamaged && profile.content === undefined,
    problems,
  };
}

function unreadable(key: string, error: unknown): FoundSave {
  const reason = error instanceof Error ? error.message : String(error);
  return {
    kind: undefined,
    content: undefined,
    revision: 0,
    problems: [problemAt(key, "store-failed", { key, reason })],
  };
}

/** Thrown for a name that is none of the keys of a store. */
export function unknownEntry(name: string): Problem {
  return { ...problemAt(name, "unknown-entry", { name }), severity: "warning" };
}

function misplaced(key: string, id: string): Problem {
  return problemAt(key, "misplaced-character", { key, id });
}

function missingCharacter(id: string): Problem {
  return problemAt(profileKey, "missing-character", { id });
}

function missingProfile(): Problem {
  return { ...problemAt(profileKey, "missing-profile", {}), severity: "warning" };
}

type Found = "missing-profile" | "store-failed" | "unknown-entry" | "misplaced-character" | "missing-character";

function problemAt<Code extends Found>(file: string, code: Code, params: ParamsOf<Code>): Problem {
  const fixes = [{ code: `mend-${code}`, params: {} }] as const;
  return { code, params, severity: "error", place: { file, pointer: "" }, fixes };
}

function readArrangement(content: Json | undefined): Arrangement {
  const profile = recordOf(content);
  const cueCounts = Object.entries(recordOf(profile["cueCounts"])).flatMap(([key, count]) =>
    typeof count === "number" ? [[key, count] as const] : [],
  );
  return {
    seats: bySeat(profile["seats"]),
    devices: bySeat(profile["devices"]),
    order: listOf(profile["order"]),
    retired: listOf(profile["retired"]),
    cueCounts: new Map(cueCounts),
  };
}

function bySeat(value: unknown): ReadonlyMap<number, string> {
  const seats = Object.entries(recordOf(value));
  return new Map(seats.flatMap(([number, id]) => (typeof id === "string" ? [[Number(number), id]] : [])));
}

function recordOf(value: unknown): Readonly<Record<string, unknown>> {
  return typeof value === "object" && value !== null && !Array.isArray(value) ? { ...value } : {};
}

function listOf(value: unknown): readonly string[] {
  return Array.isArray(value) ? value.filter((each): each is string => typeof each === "string") : [];
}

/** A profile before its first character is stored. */
const nobody: Json = { mantle: "profile/1", seats: {}, devices: {}, order: [], retired: [], cueCounts: {} };

/** How a flush meets what another writer stored since. */
export interface FlushOptions {
  /** Replaces it. @defaultValue as the session's `conflicts` says */
  readonly overwrite?: boolean;
}

/** What is to be stored, and the storing of it: what changed often is written once. */
export interface Writing {
  characterChanged(id: string): void;
  characterRemoved(id: string): void;
  /** Whether a character has changes that are not stored, or not known to be. */
  isUnsaved(id: string): boolean;
  /** What is stored under a key is what the session has, whoever stored it. */
  adopted(key: string, revision: number): void;
  arrangementChanged(): void;
  /**
   * Resolves when everything that changed so far is stored. What failed does not keep the rest from being stored, and is tried again at
   * the next call.
   */
  flush(options?: FlushOptions): Promise<void>;
}

/** What is to be stored, as it is when it is written. */
interface Current {
  character(id: string): Character | undefined;
  arrangement(): Arrangement;
}

/**
 * Opens the writing of a profile.
 *
 * @param read - what was read of each key: what another writer stored after it is not replaced.
 */
export function openWriting(store: Store, read: ReadonlyMap<string, number>, now: Current): Writing {
  return new ProfileWriting(store, read, now);
}

class ProfileWriting implements Writing {
  readonly #store: Store;
  readonly #now: Current;
  /** By key, what is known to be stored. */
  readonly #revisions: Map<string, number>;
  /** Whose changes are to be stored, and whose saves are to be removed. */
  readonly #characters = new Set<string>();
  readonly #removed = new Set<string>();
  /** Whose changes are just being stored. */
  #current: string | undefined;
  #isArranged = false;
  #flushing: Promise<void> = Promise.resolve();

  constructor(store: Store, read: ReadonlyMap<string, number>, now: Current) {
    this.#store = store;
    this.#revisions = new Map(read);
    this.#now = now;
  }

  characterChanged(id: string): void {
    this.#characters.add(id);
    this.#removed.delete(id);
  }

  characterRemoved(id: string): void {
    this.#characters.delete(id);
    this.#removed.add(id);
  }

  isUnsaved(id: string): boolean {
    return this.#characters.has(id) || this.#current === id;
  }

  adopted(key: string, revision: number): void {
    this.#stored(key, revision);
    const id = idIn(key);
    if (id === undefined) return;
    this.#characters.delete(id);
    this.#removed.delete(id);
  }

  arrangementChanged(): void {
    this.#isArranged = true;
  }

  flush(options: FlushOptions = {}): Promise<void> {
    this.#flushing = this.#flushing.catch(() => undefined).then(() => this.#write(options));
    return this.#flushing;
  }

  async #write(options: FlushOptions): Promise<void> {
    const failures: unknown[] = [];
    const failed = (error: unknown) => failures.push(error);
    // So that it is noticed where a profile is gone, there is one before there is a character.
    if (this.#characters.size > 0 && !this.#revisions.get(profileKey))
      await this.#put(profileKey, "profile", nobody, options).catch(failed);
    let isOneUnstored = false;
    for (const id of [...this.#characters]) {
      await this.#writeCharacter(id, options).catch((error: unknown) => {
        failed(error);
        isOneUnstored ||= !this.#revisions.has(keyOf(id));
      });
    }
    for (const id of [...this.#removed]) await this.#removeCharacter(id, options).catch(failed);
    // The profile names characters, so it is written after each of them has a save.
    if (this.#isArranged && !isOneUnstored) await this.#writeArrangement(options).catch(failed);
    // One that may end by itself comes before a conflict, which does not.
    if (failures.length > 0) throw failures.find((error) => !isConflict(error)) ?? failures[0];
  }

  async #writeCharacter(id: string, options: FlushOptions): Promise<void> {
    const character = this.#now.character(id);
    // Changed again while it is written, it is written again.
    this.#characters.delete(id);
    if (character === undefined) return;
    this.#current = id;
    try {
      await this.#put(keyOf(id), "character", { ...character }, options);
    } catch (error) {
      this.#characters.add(id);
      throw error;
    } finally {
      this.#current = undefined;
    }
  }

  async #removeCharacter(id: string, options: FlushOptions): Promise<void> {
    this.#removed.delete(id);
    try {
      await this.#put(keyOf(id), "character", undefined, options);
    } catch (error) {
      this.#removed.add(id);
      throw error;
    }
  }

  async #writeArrangement(options: FlushOptions): Promise<void> {
    this.#isArranged = false;
    const { order, retired, ...maps } = this.#now.arrangement();
    const [seats, devices, cueCounts] = [maps.seats, maps.devices, maps.cueCounts].map(Object.fromEntries);
    try {
      await this.#put(
        profileKey,
        "profile",
        { mantle: "profile/1", seats, devices, order, retired, cueCounts },
        options,
      );
    } catch (error) {
      this.#isArranged = true;
      throw error;
    }
  }

  async #put(key: string, kind: string, content: Json | undefined, { overwrite = false }: FlushOptions): Promise<void> {
    const options = overwrite ? {} : { after: this.#revisions.get(key) ?? 0 };
    const revision = await (content === undefined
      ? removeSave(this.#store, key, options)
      : writeSave(this.#store, key, kind, content, options));
    this.#stored(key, revision);
  }

  /** Notes what is stored; what was adopted meanwhile may be newer. */
  #stored(key: string, revision: number): void {
    this.#revisions.set(key, Math.max(revision, this.#revisions.get(key) ?? 0));
  }
}
