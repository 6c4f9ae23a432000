import { EventQueue } from "../../base/event-queue.ts";
import { MantleError } from "../../base/problem.ts";
import type { Json } from "../json.ts";
import type { Versions } from "../merge/versions.ts";
import type { Store } from "../store.ts";
import { type Found, find, type Held, isSameHeld, putAfter } from "./stored-text.ts";
import { keyOfNote, noteKeyOf, readNote, type SyncNote, writeNote } from "./sync-note.ts";

/** A save that was changed here and elsewhere, each in another way, and that nothing merged. Both are kept until one is chosen. */
export interface SaveConflict {
  readonly key: string;
  /** What the save holds: `"character"`. */
  readonly kind: string;
  /** The revision of `theirs`. */
  readonly revision: number;
  /** What both began with; `undefined` when it is not known, as for two that were made under one key. */
  readonly base: Json | undefined;
  readonly mine: Json;
  readonly theirs: Json;
}

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
   * @returns the merged content; `undefined` where somebody has to choose.
   */
  readonly merge?: (kind: string, versions: Versions<Json>) => Json | undefined;
}

/** What happens in a store that is kept in agreement with another. */
export interface SyncEvents {
  /** Something is stored here, and not sent yet. */
  readonly pending: { readonly key: string };
  /** What is stored here is stored there as well. */
  readonly sent: { readonly key: string };
  /** Something else is stored here than before: what another writer made, alone or merged with what was here. */
  readonly received: { readonly key: string; readonly before: Json | undefined; readonly content: Json };
  /** Somebody has to choose. Emitted once for each conflict. */
  readonly conflict: SaveConflict;
  /** The other store does not take it, as a server does not take what its rules forbid. It stays here, and is sent again when it changes. */
  readonly refused: { readonly key: string; readonly error: MantleError };
}

/** What came of an exchange, by key. */
export interface SyncReport {
  readonly sent: readonly string[];
  readonly received: readonly string[];
  readonly conflicts: readonly SaveConflict[];
  readonly refused: readonly string[];
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
  /** Ends a conflict: this is stored here at once, and sent with the next exchange. */
  resolve(conflict: SaveConflict, content: Json): Promise<void>;
  /** Calls back when something happens. Returns what stops it. */
  on<Name extends keyof SyncEvents>(event: Name, listener: (happened: SyncEvents[Name]) => void): () => void;
}

/** How often an exchange of one key begins again because another writer came first. */
const mostTries = 8;

/**
 * A store on this device that is kept in agreement with another one, such as a server's: everything is stored and read here, whether the
 * other can be reached or not, and exchanged by `sync`. What is stored here is never lost: not when the other one is gone, forgets it, or
 * refuses it.
 *
 * What only one side changed is taken from it. What both changed is merged by `merge`, or else is a conflict, and stays on both sides as it
 * is until `resolve`. What was removed elsewhere is sent again, since it may as well have been lost there.
 *
 * @example
 * const store = syncedStore({ near: indexedStore("saltmarsh"), far: httpStore({ url, token }), merge: mergeSaved(catalog) })
 * const session = await openSession({ catalog, store })
 */
export function syncedStore({ near, far, shares = () => true, merge }: SyncedStoreOptions): SyncedStore {
  const queue = new EventQueue<SyncEvents>();
  const conflicts = new Map<string, SaveConflict>();
  const refused = new Map<string, number>();
  const settled = new Map<string, Promise<void>>();
  let running: Promise<unknown> = Promise.resolve();
  let next: Promise<SyncReport> | undefined;

  /** Finishes a merge that was interrupted, before anything of its key is read or written. */
  const settle = (key: string): Promise<void> => {
    if (keyOfNote(key) !== undefined)
      return Promise.reject(new MantleError("bad-key", `"${key}" is a key that this store has for itself.`));
    const known = settled.get(key) ?? finishMerge(near, key);
    settled.set(key, known);
    known.catch(() => settled.delete(key));
    return known;
  };
  const forget = (key: string) => {
    conflicts.delete(key);
    refused.delete(key);
  };

  /** One step of the exchange of a key. Returns whether there may be another. */
  const step = async (key: string, report: Report): Promise<boolean> => {
    const [noted, here, there] = await Promise.all([readNote(near, key), find(near, key), find(far, key)]);
    const note = afterSending(noted, there);
    const agree = () => writeNote(near, key, { near: here.revision, far: there.revision, base: here.held });
    const move = nextMove(note, here, there);
    switch (move) {
      case "nothing":
        return false;
      case "agree":
        forget(key);
        await agree();
        return false;
      case "remove":
        await far.remove(key);
        await near.remove(noteKeyOf(key));
        return false;
      case "send": {
        if (here.held === undefined || refused.get(key) === here.revision) return false;
        await writeNote(near, key, { ...note, sending: { near: here.revision, held: here.held } });
        const revision = await putAfter(far, key, there.revision, here.held);
        await writeNote(near, key, { near: here.revision, far: revision, base: here.held });
        forget(key);
        report.sent.add(key);
        queue.emit("sent", { key });
        return false;
      }
      case "receive": {
        if (there.held === undefined) return false;
        const revision = await putAfter(near, key, here.revision, there.held);
        await writeNote(near, key, { near: revision, far: there.revision, base: there.held });
        received(key, here.held, there.held, report);
        return false;
      }
      case "merge": {
        const conflict = conflictOf(key, note.base, here.held, there);
        if (conflict === undefined) return false;
        const merged =
          conflict.base === undefined ? undefined : merge?.(conflict.kind, { ...conflict, base: conflict.base });
        if (merged === undefined) {
          const isNew = !isSameConflict(conflicts.get(key), conflict);
          conflicts.set(key, conflict);
          report.conflicts.push(conflict);
          if (isNew) queue.emit("conflict", conflict);
          return false;
        }
        const draft = { kind: conflict.kind, content: merged };
        settled.delete(key);
        await storeMerged(near, key, { near: here.revision, far: there.revision, base: there.held, draft });
        forget(key);
        received(key, here.held, draft, report);
        return true;
      }
    }
  };
  const received = (key: string, before: Held | undefined, after: Held, report: Report) => {
    report.received.add(key);
    if (after.kind === undefined) return;
    queue.emit("received", {
      key,
      before: before?.kind === undefined ? undefined : before.content,
      content: after.content,
    });
  };

  const exchange = async (key: string, report: Report): Promise<void> => {
    for (let tries = 1; ; tries += 1) {
      try {
        await settle(key);
        if (!(await step(key, report))) return;
      } catch (error) {
        if (isCode(error, "refused")) {
          refused.set(key, (await find(near, key)).revision);
          report.refused.add(key);
          queue.emit("refused", { key, error });
          return;
        }
        // Another writer came first, here or there: what there is now is looked at.
        if (!isCode(error, "changed-elsewhere") || tries === mostTries) throw error;
      }
    }
  };
  const exchangeAll = async (): Promise<SyncReport> => {
    const report = { sent: new Set<string>(), received: new Set<string>(), conflicts: [], refused: new Set<string>() };
    const [here, there] = await Promise.all([near.list(), far.list()]);
    const keys = new Set([...here.keys.map((key) => keyOfNote(key) ?? key), ...there.keys]);
    for (const key of [...keys].filter(shares)) await exchange(key, report);
    return { ...report, sent: [...report.sent], received: [...report.received], refused: [...report.refused] };
  };

  return {
    async read(key) {
      await settle(key);
      return near.read(key);
    },
    async write(key, generation, keep) {
      await settle(key);
      await near.write(key, generation, keep);
      if (shares(key)) queue.emit("pending", { key });
    },
    async list() {
      const { keys, unknown } = await near.list();
      return { keys: keys.filter((key) => keyOfNote(key) === undefined), unknown };
    },
    async remove(key) {
      await settle(key);
      const { far: known } = await readNote(near, key);
      if (shares(key)) await writeNote(near, key, { near: 0, far: known, isRemoved: true });
      await near.remove(key);
      forget(key);
      if (shares(key)) queue.emit("pending", { key });
    },
    sync() {
      next ??= running.then(() => {
        next = undefined;
        const done = exchangeAll();
        running = done.catch(() => undefined);
        return done;
      });
      return next;
    },
    get conflicts() {
      return [...conflicts.values()];
    },
    async resolve({ key, kind, revision, theirs }, content) {
      await settle(key);
      const here = await find(near, key);
      const base = { kind, content: theirs };
      const draft = { kind, content };
      settled.delete(key);
      // What was stored there since the conflict was seen is for the next exchange to find.
      await storeMerged(near, key, { near: here.revision, far: revision, base, draft });
      conflicts.delete(key);
      queue.emit("pending", { key });
    },
    on: (event, listener) => queue.on(event, listener),
  };
}

interface Report {
  readonly sent: Set<string>;
  readonly received: Set<string>;
  readonly conflicts: SaveConflict[];
  readonly refused: Set<string>;
}

type Move = "nothing" | "agree" | "send" | "receive" | "merge" | "remove";

function nextMove(note: SyncNote, here: Found, there: Found): Move {
  // What cannot be read is left alone, on either side.
  if ([here, there].some(({ revision, held }) => revision > 0 && held === undefined)) return "nothing";
  if (here.revision === 0) {
    if (note.isRemoved === true) return "remove";
    return there.revision === 0 ? "nothing" : "receive";
  }
  const isNoted = here.revision === note.near && there.revision === note.far;
  if (isSameHeld(here.held, there.held)) return isNoted ? "nothing" : "agree";
  // Fewer generations than were there once are those of an older copy.
  if (there.revision <= note.far) return "send";
  return here.revision === note.near ? "receive" : "merge";
}

/** The note, once it is known what came of the last sending, of which nobody may have had an answer. */
function afterSending({ sending, ...note }: SyncNote, there: Found): SyncNote {
  if (sending === undefined || there.revision <= note.far) return note;
  const arrived = there.generations.find(({ held }) => isSameHeld(held, sending.held));
  if (arrived !== undefined) return { near: sending.near, far: arrived.revision, base: sending.held };
  // Where what came after the last agreement is to be seen, another writer made it. Else it may be in what others made of it, and nobody knows.
  const isSeen = there.generations.some(({ revision }) => revision <= note.far + 1);
  return isSeen ? note : { ...note, base: undefined };
}

/** Stores what a merge came to. The note is written first, so that whoever comes after an interruption can finish it. */
async function storeMerged(near: Store, key: string, note: SyncNote & { readonly draft: Held }): Promise<void> {
  await writeNote(near, key, note);
  await putAfter(near, key, note.near, note.draft);
  await writeNote(near, key, { ...note, draft: undefined });
}

async function finishMerge(near: Store, key: string): Promise<void> {
  const note = await readNote(near, key);
  if (note.draft === undefined) return;
  const { revision } = await find(near, key);
  if (revision === note.near) await putAfter(near, key, revision, note.draft);
  await writeNote(near, key, { ...note, draft: undefined });
}

function conflictOf(
  key: string,
  base: Held | undefined,
  mine: Held | undefined,
  { revision, held: theirs }: Found,
): SaveConflict | undefined {
  // Texts that are no saves have nothing that could be compared or shown.
  if (mine?.kind === undefined || theirs?.kind !== mine.kind) return undefined;
  const known = base?.kind === mine.kind ? base.content : undefined;
  return { key, kind: mine.kind, revision, base: known, mine: mine.content, theirs: theirs.content };
}

function isSameConflict(one: SaveConflict | undefined, other: SaveConflict): boolean {
  const held = ({ kind, mine: content }: SaveConflict) => ({ kind, content });
  return one !== undefined && one.revision === other.revision && isSameHeld(held(one), held(other));
}

function isCode(error: unknown, code: MantleError["code"]): error is MantleError {
  return error instanceof MantleError && error.code === code;
}
