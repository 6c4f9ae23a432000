import { openDB } from "idb";
import type { Store } from "../core/save/store.ts";

/**
 * A store in the browser's IndexedDB. Each write is one transaction, so an interruption leaves the generations before it.
 *
 * @param name - the database; games that share a web address need different ones.
 */
export function indexedStore(name: string): Store {
  const saves = "saves";
  const database = openDB<{ [saves]: { key: string; value: readonly string[] } }>(name, 1, {
    upgrade: (db) => void db.createObjectStore(saves),
  });
  return {
    read: async (key) => (await (await database).get(saves, key)) ?? [],
    write: async (key, generations) => void (await (await database).put(saves, [...generations], key)),
    list: async () => (await (await database).getAllKeys(saves)).map(String).sort(),
    remove: async (key) => (await database).delete(saves, key),
  };
}
