import { MantleError } from "../base/problem.ts";
import type { CatalogIds } from "../catalog/model/catalog.ts";
import type { Store } from "../save/store.ts";
import { readProfile } from "./profile.ts";
import { runSession } from "./run-session.ts";
import type { Session, SessionOptions } from "./session.ts";

/** The session of each store, as long as it is open; a store that nobody holds any more takes its own along. */
const open = new WeakMap<Store, Promise<Session>>();
/** What resolves when a store's session that is being closed has let it go, or could not. */
const leaving = new WeakMap<Store, Promise<void>>();

/**
 * Opens the session kept in a store. Every scene makes this same call, and finds the same characters in the same seats.
 *
 * As long as a session is open, the call gives that one, so that scenes that overlap agree: what the first call asked for holds.
 * A damaged save is reported in `problems`, and the one before it is used.
 *
 * @throws MantleError `other-catalog` when the store's session is open with another catalog, `unknown-channel`; whatever the store failed with.
 * @example
 * const session = await openSession({ catalog, store })
 * const player = session.seat(1).character
 */
export function openSession<Ids extends CatalogIds>(options: SessionOptions<Ids>): Promise<Session<Ids>>;
export async function openSession(options: SessionOptions): Promise<Session> {
  const { catalog, store } = options;
  await leaving.get(store);
  const known = open.get(store);
  if (known !== undefined) {
    const session = await known;
    if (session.catalog === catalog) return session;
    throw new MantleError(
      "other-catalog",
      `The session of this store is open with the catalog "${session.catalog.id}". Close it first.`,
    );
  }
  const opening = readProfile(store).then((profile) =>
    runSession(options, profile, (stored) => leaving.set(store, leave(store, opening, stored))),
  );
  open.set(store, opening);
  // What could not be read is tried again at the next call.
  opening.catch(() => open.delete(store));
  return opening;
}

/** Closes a store once everything is stored; what could not be stored leaves the session open. */
async function leave(store: Store, session: Promise<Session>, stored: Promise<void>): Promise<void> {
  const isStored = await stored.then(
    () => true,
    () => false,
  );
  // A session that is closed twice has nothing to let go the second time.
  if (isStored && open.get(store) === session) open.delete(store);
}
