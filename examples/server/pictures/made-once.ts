import { LRUCache } from "lru-cache";

/** Makes what is asked for by name once, however many ask at the same time, and keeps what was asked for last. */
export interface MadeOnce {
  get(name: string, make: () => Promise<Uint8Array>): Promise<Uint8Array>;
  /** How many were made. */
  readonly made: number;
}

/** @param bytes - how much is kept. */
export function madeOnce(bytes: number): MadeOnce {
  const kept = new LRUCache<string, Uint8Array>({ maxSize: bytes, sizeCalculation: ({ length }) => length || 1 });
  const making = new Map<string, Promise<Uint8Array>>();
  let made = 0;
  return {
    async get(name, make) {
      const known = kept.get(name) ?? making.get(name);
      if (known !== undefined) return known;
      const promise = make().finally(() => making.delete(name));
      making.set(name, promise);
      const picture = await promise;
      made += 1;
      kept.set(name, picture);
      return picture;
    },
    get made() {
      return made;
    },
  };
}
