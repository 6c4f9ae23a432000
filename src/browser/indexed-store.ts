import { type DBSchema, type IDBPDatabase, openDB } from "idb";
import { MantleError } from "../core/base/problem.ts";
import { addGeneration, type Generation, type Store } from "../core/save/store.ts";

const saves = "saves";

interface Saves extends DBSchema {
  [saves]: { key: string; value: readonly Held[] };
}

type Held =
  | { readonly revision: number; readonly text: string }
  | { readonly revision: number; readonly foreign: unknown };

/**
 * A store in the browser's IndexedDB. Each write is one transaction, so an interruption leaves what was stored, and of two pages that
 * write at once the second is refused.
 *
 * The database is opened with the first call, and again when the browser closed it, as it does when the player clears the site's data.
 * Where the browser does not allow the page to store anything, each call rejects with a MantleError `no-storage`.
 *
 * @param name - the database; games that share a web address need different ones.
 */
export function indexedStore(name: string): Store {
  let opening: Promise<IDBPDatabase<Saves>> | undefined;
  const forget = () => {
    opening = undefined;
  };
  const open = () => {
    opening ??= openSaves(name, forget).catch((error: unknown) => {
      forget();
      throw noStorage(error);
    });
    return opening;
  };
  const run = async <T>(act: (database: IDBPDatabase<Saves>) => Promise<T>): Promise<T> => {
    try {
      return await act(await open());
    } catch (error) {
      // The browser closed it between two calls. What failed so has changed nothing.
      if (!(error instanceof DOMException && error.name === "InvalidStateError")) throw error;
      forget();
      return act(await open());
    }
  };
  return {
    read: (key) => run(async (database) => heldIn(await database.get(saves, key)).map(toGeneration)),
    write: (key, generation, keep) =>
      run(async (database) => {
        const writing = database.transaction(saves, "readwrite", { durability: "strict" });
        // What goes wrong in it is thrown below; that it is not done either is no second failure.
        const done = writing.done.catch((error: unknown) => error);
        try {
          const before = heldIn(await writing.store.get(key));
          await writing.store.put([...addGeneration<Held>(key, before, generation, keep)], key);
        } catch (error) {
          if (error instanceof MantleError) writing.abort();
          await done;
          throw error;
        }
        const failure = await done;
        if (failure !== undefined) throw failure;
      }),
    list: () =>
      run(async (database) => {
        const found: readonly unknown[] = await database.getAllKeys(saves);
        const isKey = (each: unknown) => typeof each === "string";
        const unknown = found.filter((each) => !isKey(each)).map(String);
        return { keys: found.filter(isKey).sort(), unknown };
      }),
  };
}

async function openSaves(name: string, forget: () => void): Promise<IDBPDatabase<Saves>> {
  const database = await openDB<Saves>(name, 1, {
    upgrade: (made) => void made.createObjectStore(saves),
    // Another page wants to delete or to renew it, and would wait for this one for ever.
    blocking: (_from, _to, { target }) => {
      forget();
      if (target instanceof IDBDatabase) target.close();
    },
    terminated: forget,
  });
  return database;
}

/** What is held under a key; what another program put there is held as it is, and can be read by that one only. */
function heldIn(value: unknown): readonly Held[] {
  if (value === undefined) return [];
  return Array.isArray(value) && value.every(isHeld) ? value : [{ revision: 1, foreign: value }];
}

function isHeld(value: unknown): value is Held {
  if (typeof value !== "object" || value === null) return false;
  const { revision, text }: { readonly revision?: unknown; readonly text?: unknown } = value;
  return Number.isSafeInteger(revision) && ("foreign" in value || typeof text === "string");
}

function toGeneration(held: Held): Generation {
  if ("text" in held) return held;
  return { revision: held.revision, text: undefined, because: "another program stored something else there" };
}

function noStorage(error: unknown): MantleError {
  const reason = error instanceof Error ? error.message : String(error);
  return new MantleError("no-storage", `The browser does not allow this page to store anything: ${reason}`);
}
