import { MantleError } from "../core/base/problem.ts";
import { receiveSave } from "../core/play/receive-save.ts";
import type { Session } from "../core/play/session.ts";
import type { SyncedStore } from "../core/save/synced/synced-store.ts";

/** How things are between this device and the server. */
export type SyncState =
  /** Everything is there as well. */
  | "agreed"
  /** Something is not there yet, and is being sent. */
  | "sending"
  /** Something was changed here and elsewhere, each in another way: somebody has to choose, as `store.conflicts` says. */
  | "undecided"
  /** The server does not answer: everything is kept here, and sent later. */
  | "offline"
  /** The server does not know the player any more. */
  | "signed-out";

export interface AutosyncOptions {
  /** Milliseconds from one exchange to the next while nothing happens. @defaultValue `30000` */
  readonly every?: number;
  /** Called, each time it changes, with how things are. */
  readonly onState?: (state: SyncState) => void;
  /** Called when an exchange failed for another reason than that the server does not answer. @defaultValue reported to the console */
  readonly onError?: (error: unknown) => void;
  /**
   * Calls back when something may have changed on the server, as `subscribe` does. Returns what stops it.
   *
   * @defaultValue the exchange comes by the clock alone
   */
  readonly listen?: (changed: () => void) => () => void;
}

/** Milliseconds between two tries at most, while the server does not answer. */
const longestWait = 60_000;

/**
 * Keeps a session's store in agreement with its server by itself: what is stored here is sent at once; what others stored is fetched when the
 * server calls, the page is shown again, the network comes back, and now and then. What comes in is put into the session, merged with what was
 * changed there meanwhile. It runs in programs without pages too, such as in Node.
 *
 * @returns what stops it.
 * @example
 * const store = syncedStore({ near: indexedStore("saltmarsh"), far: httpStore({ url, token }), merge: mergeSaved(catalog) })
 * const session = await openSession({ catalog, store })
 * const stop = autosync(session, store, { listen: subscribe({ url, token }) })
 */
export function autosync(session: Session, store: SyncedStore, options: AutosyncOptions = {}): () => void {
  const { every = 30_000, onState = () => {}, onError = console.error, listen } = options;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let wait = 1_000;
  let state: SyncState | undefined;
  let isRunning = false;
  let isAsked = false;
  let isOver = false;
  const report = (next: SyncState) => {
    if (next === state || isOver) return;
    state = next;
    onState(next);
  };
  const plan = (milliseconds: number) => {
    clearTimeout(timer);
    if (!isOver) timer = setTimeout(exchange, milliseconds);
  };
  const exchange = async () => {
    isAsked = true;
    if (isRunning || isOver) return;
    isRunning = true;
    try {
      while (isAsked && !isOver) {
        // What is stored meets what comes in as a whole: it is merged, or a conflict.
        await session.flush().catch(onError);
        isAsked = false;
        await store.sync();
      }
      wait = 1_000;
      report(store.conflicts.length > 0 ? "undecided" : "agreed");
      plan(every);
    } catch (error) {
      const code = error instanceof MantleError ? error.code : undefined;
      report(code === "not-allowed" ? "signed-out" : "offline");
      if (code !== "no-connection" && code !== "not-allowed" && code !== "try-later") onError(error);
      // Not all at the same moment, once the server is there again.
      plan(wait * (0.75 + Math.random() / 2));
      wait = Math.min(longestWait, wait * 2);
    } finally {
      isRunning = false;
    }
  };
  const stops = [
    store.on("pending", () => {
      if (state === "agreed" || state === "undecided") report("sending");
      void exchange();
    }),
    store.on("received", (save) => {
      receiveSave(session, save);
    }),
    store.on("conflict", () => report("undecided")),
    listen?.(exchange),
  ];
  // Programs without pages have neither.
  const { document: page }: Partial<typeof globalThis> = globalThis;
  const target: Partial<EventTarget> = globalThis;
  const show = () => {
    if (page?.visibilityState === "visible") void exchange();
  };
  target.addEventListener?.("online", exchange);
  page?.addEventListener("visibilitychange", show);
  void exchange();
  return () => {
    isOver = true;
    clearTimeout(timer);
    for (const stop of stops) stop?.();
    target.removeEventListener?.("online", exchange);
    page?.removeEventListener("visibilitychange", show);
  };
}
