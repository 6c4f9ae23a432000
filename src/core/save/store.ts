/**
 * Where saves are kept. A store knows nothing of what it holds: it keeps texts by key, in generations, newest first.
 *
 * A store must never leave a key without a whole generation: it writes a new one beside the old before it lets the old go.
 */
export interface Store {
  /** The generations under a key, newest first; empty when there are none. */
  read(key: string): Promise<readonly string[]>;
  /** Replaces the generations under a key, newest first. Resolves only when they are stored. */
  write(key: string, generations: readonly string[]): Promise<void>;
  /** All keys, sorted. */
  list(): Promise<readonly string[]>;
  remove(key: string): Promise<void>;
}

/** A store that lasts as long as the program. */
export function memoryStore(): Store {
  const kept = new Map<string, readonly string[]>();
  return {
    read: async (key) => kept.get(key) ?? [],
    write: async (key, generations) => void kept.set(key, [...generations]),
    list: async () => [...kept.keys()].sort(),
    remove: async (key) => void kept.delete(key),
  };
}
