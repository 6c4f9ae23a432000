import { MantleError } from "../../base/problem.ts";
import type { Json } from "../json.ts";
import type { Versions } from "../merge/versions.ts";
import type { Store } from "../store.ts";
import { Exchange } from "./exchange.ts";
import type { SaveConflict, SyncEvents, SyncReport } from "./sync-events.ts";
import { keyOfNote } from "./sync-note.ts";

export interface SyncedStoreOptions {
  /** Where everything is stored at once, and read from: on this device. */
  readonly near: Store;
  /** What it is sent to when it can be reached: a server. */
  readonly far: Store;
  /** Which keys are sent; the others stay here. @defaultValue all of them */
  readonly shares?: (key: string) => boolean;
  /**
   * Merges a save that was changed here and elsewhere.
   *
   * @param versions - `base` is `undefined` where it is not known what both began with.
   * @returns the merged content; `undefined` where somebody has to choose.
   */
  readonly merge?: (kind: string, versions: Versions<Json, Json | undefined>) => Json | undefined;
}

/** A store on this device that is kept in agreement with another one. */
export interface SyncedStore extends Store {
  /**
   * Sends what is not sent yet and fetches what others stored. Calls that come meanwhile share the next exchange.
   *
   * @throws MantleError `no-connection` and whatever else the other store failed with; nothing is lost then, and the next call goes on.
   */
  sync(): Promise<SyncReport>;
  /** What nobody has chosen yet. */
  readonly conflicts: readonly SaveConflict[];
  /**
   * Ends a conflict: this is stored here at once, and sent with the next exchange.
   *
   * @param content - `undefined` removes the save.
   * @throws MantleError `conflict` when something else is stored here than what was decided about; the next exchange finds what there is.
   */
  resolve(conflict: SaveConflict, content: Json | undefined): Promise<void>;
  /** Calls back when something happens. Returns what stops it. */
  on<Name extends keyof SyncEvents>(event: Name, listener: (happened: SyncEvents[Name]) => void): () => void;
}

/**
 * A store on this device that is kept in agreement with another one, such as a server's: everything is stored and read here, whether the
 * other can be reached or not, and exchanged by `sync`. What is stored here is never lost: not when the other one is gone, forgets it, or
 * refuses it.
 *
 * What only one side changed is taken from it; what one side removed is removed. What both changed is merged by `merge`, or else is a
 * conflict, and stays on both sides as it is until `resolve`. Where an older copy has replaced the other store, what this device has seen
 * before is brought up to date, and everything else that differs is a conflict.
 *
 * Several programs may use one device's store at once, and each may end at any moment.
 *
 * @example
 * const store = syncedStore({ near: indexedStore("saltmarsh"), far: httpStore({ url, token }), merge: mergeSaved(catalog) })
 * const session = await openSession({ catalog, store })
 */
export function syncedStore(options: SyncedStoreOptions): SyncedStore {
  const { near, shares = () => true } = options;
  const exchange = new Exchange(options);
  const { queue } = exchange;
  let running: Promise<unknown> = Promise.resolve();
  let next: Promise<SyncReport> | undefined;
  return {
    async read(key) {
      requireOwn(key);
      return near.read(key);
    },
    async write(key, generation, keep) {
      requireOwn(key);
      await near.write(key, generation, keep);
      if (shares(key)) queue.emit("pending", { key });
    },
    async list() {
      const { keys, unknown } = await near.list();
      return { keys: keys.filter((key) => keyOfNote(key) === undefined), unknown };
    },
    sync() {
      next ??= running.then(() => {
        next = undefined;
        const done = exchange.all(shares);
        running = done.catch(() => undefined);
        return done;
      });
      return next;
    },
    get conflicts() {
      return exchange.conflicts;
    },
    resolve: (conflict, content) => exchange.resolve(conflict, content),
    on: (event, listener) => queue.on(event, listener),
  };
}

/** The notes of a store are among its saves, and nobody else's. */
function requireOwn(key: string): void {
  if (keyOfNote(key) !== undefined)
    throw new MantleError("bad-key", `"${key}" is a key that this store has for itself.`);
}
