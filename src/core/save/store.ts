import { MantleError } from "../base/problem.ts";

/** One writing of a save. A text that is there and cannot be read has a reason instead. */
export type Generation =
  /** `revision` counts from 1, and grows with each writing of a key. */
  | { readonly revision: number; readonly text: string }
  | { readonly revision: number; readonly text: undefined; readonly because: string };

/** What a store holds. */
export interface Listing {
  /** All keys, sorted. */
  readonly keys: readonly string[];
  /** Names found beside the saves that belong to no save of this store. They are left alone. */
  readonly unknown: readonly string[];
  /**
   * Which history the store has. It changes when an older copy of the store takes its place, as when a backup is restored: revisions
   * that were seen before say nothing then. Left out by a store that cannot know.
   */
  readonly epoch?: string | undefined;
}

/**
 * Where saves are kept. A store knows nothing of what it holds: it keeps texts by key, in generations that are numbered.
 *
 * A store must never leave a key without a whole generation: it writes a new one beside the old before it removes the old. A key is never
 * taken away again, so its revisions only grow: what `removeSave` removes is one more generation, which says so.
 */
export interface Store {
  /**
   * The generations under a key, newest first; empty when there are none. One that cannot be read does not keep the others from
   * being read.
   */
  read(key: string): Promise<readonly Generation[]>;
  /**
   * Adds a generation, and removes all others but those to be kept. Resolves only when it is stored.
   *
   * @param keep - revisions of older generations that stay; empty for a first one.
   * @throws MantleError `changed-elsewhere` when the key has this revision or a newer one, or has no generation where some are to be kept;
   * nothing is changed then. No two writers can add the same revision.
   */
  write(key: string, generation: { revision: number; text: string }, keep: readonly number[]): Promise<void>;
  list(): Promise<Listing>;
}

/** What a store throws when another writer came first. */
export function conflictError(key: string): MantleError {
  return new MantleError(
    "changed-elsewhere",
    `"${key}" was stored by another writer meanwhile. Flush with { overwrite: true } to replace it, or close with { discard: true } and open again.`,
  );
}

/** A store that lasts as long as the program. */
export function memoryStore(): Store {
  const kept = new Map<string, readonly Generation[]>();
  return {
    read: async (key) => kept.get(key) ?? [],
    write: async (key, generation, keep) =>
      void kept.set(key, addGeneration(key, kept.get(key) ?? [], generation, keep)),
    list: async () => ({ keys: [...kept.keys()].sort(), unknown: [] }),
  };
}

/**
 * The generations of a key after one was added, newest first: for stores that hold them together.
 *
 * @throws MantleError `changed-elsewhere` when there is one of this revision or a newer one, or none where some are to be kept.
 */
export function addGeneration<Held extends { readonly revision: number }>(
  key: string,
  before: readonly Held[],
  generation: Held,
  keep: readonly number[],
): readonly Held[] {
  const isGone = keep.length > 0 && before.length === 0;
  if (isGone || before.some(({ revision }) => revision >= generation.revision)) throw conflictError(key);
  return [generation, ...before.filter(({ revision }) => keep.includes(revision))];
}
