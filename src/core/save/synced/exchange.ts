import { EventQueue } from "../../base/event-queue.ts";
import { MantleError } from "../../base/problem.ts";
import type { Json } from "../json.ts";
import type { Versions } from "../merge/versions.ts";
import { removedKind } from "../seal.ts";
import type { Store } from "../store.ts";
import { afterDraft, afterSending, isMadeAnew, nextMove, relationOf } from "./next-move.ts";
import { type Found, find, type Held, hashOf, isRemoval, isSameHeld, putAfter } from "./stored-text.ts";
import type { SaveConflict, SyncEvents, SyncReport } from "./sync-events.ts";
import {
  agreedOn,
  keyOfNote,
  type ReplicatedState,
  readNote,
  type SyncNote,
  withSending,
  writeNote,
} from "./sync-note.ts";

/** Merges a save that was changed on both sides; `undefined` where somebody has to choose. */
export type Merge = (kind: string, versions: Versions<Json, Json | undefined>) => Json | undefined;

/** How often an exchange of one key begins again because another writer came first. */
const mostTries = 8;

interface Report {
  readonly sent: Set<string>;
  readonly received: Set<string>;
  readonly conflicts: SaveConflict[];
  readonly refused: Map<string, MantleError>;
}

/** Everything known of a key at one moment. */
interface State {
  readonly key: string;
  readonly note: SyncNote;
  readonly noteRevision: number;
  readonly here: Found;
  readonly there: Found;
  readonly epoch: string | undefined;
}

/** A conflict, and the epoch of the other store when it was found. */
interface KnownConflict {
  readonly conflict: SaveConflict;
  readonly epoch: string | undefined;
}

/** The exchange between two stores, key by key. Whatever it does of a key begins with the key's note, so that two programs do not mix. */
export class Exchange {
  readonly queue = new EventQueue<SyncEvents>();
  readonly #near: Store;
  readonly #far: Store;
  readonly #merge: Merge | undefined;
  readonly #conflicts = new Map<string, KnownConflict>();
  /** By key, the revision that was refused. */
  readonly #refused = new Map<string, number>();

  constructor({ near, far, merge }: { readonly near: Store; readonly far: Store; readonly merge?: Merge }) {
    this.#near = near;
    this.#far = far;
    this.#merge = merge;
  }

  get conflicts(): readonly SaveConflict[] {
    return [...this.#conflicts.values()].map(({ conflict }) => conflict);
  }

  async all(shares: (key: string) => boolean): Promise<SyncReport> {
    const report = {
      sent: new Set<string>(),
      received: new Set<string>(),
      conflicts: [],
      refused: new Map<string, MantleError>(),
    };
    const [here, there] = await Promise.all([this.#near.list(), this.#far.list()]);
    const keys = new Set([...here.keys.map((key) => keyOfNote(key) ?? key), ...there.keys]);
    for (const key of [...keys].filter(shares)) await this.#one(key, there.epoch, report);
    return {
      ...report,
      sent: [...report.sent],
      received: [...report.received],
      refused: [...report.refused].map(([key, error]) => ({ key, error })),
    };
  }

  async resolve(conflict: SaveConflict, content: Json | undefined): Promise<void> {
    const { key, kind, revision, mine, theirs } = conflict;
    const known = this.#conflicts.get(key);
    const [{ note, revision: noteRevision }, here] = await Promise.all([
      readNote(this.#near, key),
      find(this.#near, key),
    ]);
    if (!isSameHeld(here.held, heldOf(kind, mine))) throw changedSince(key);
    const there = heldOf(kind, theirs);
    const epoch = isSameConflict(known?.conflict, conflict) ? known?.epoch : note.epoch;
    const held = heldOf(kind, content);
    try {
      // What was stored there since the conflict was seen is for the next exchange to find.
      const agreed = agreedOn(note, there, { near: here.revision, far: revision, epoch });
      // Where it is not known what both began with, they may have something in common that is in neither's past.
      const isKnown = conflict.base !== undefined;
      await this.#put({ key, note, noteRevision, here }, held, isKnown ? agreed : { ...agreed, base: undefined });
    } catch (error) {
      throw isCode(error, "changed-elsewhere") ? changedSince(key) : error;
    }
    this.#conflicts.delete(key);
    this.queue.emit("pending", { key });
  }

  async #one(key: string, epoch: string | undefined, report: Report): Promise<void> {
    for (let tries = 1; ; tries += 1) {
      try {
        if (!(await this.#step(key, epoch, report))) return;
      } catch (error) {
        if (isCode(error, "refused")) {
          this.#refused.set(key, (await find(this.#near, key)).revision);
          report.refused.set(key, error);
          this.queue.emit("refused", { key, error });
          return;
        }
        // Another writer came first, here or there: what there is now is looked at.
        if (!isCode(error, "changed-elsewhere") || tries === mostTries) throw error;
      }
    }
  }

  /** One step of the exchange of a key. Returns whether there may be another. */
  async #step(key: string, epoch: string | undefined, report: Report): Promise<boolean> {
    const [noted, here, there] = await Promise.all([
      readNote(this.#near, key),
      find(this.#near, key),
      find(this.#far, key),
    ]);
    const note = afterSending(afterDraft(noted.note, here), there, epoch);
    const state: State = { key, note, noteRevision: noted.revision, here, there, epoch };
    switch (nextMove(note, here, there, epoch)) {
      case "nothing":
        return false;
      case "agree":
        await this.#agree(state);
        return false;
      case "send":
        await this.#send(state, report);
        return false;
      case "receive":
        await this.#receive(state, report);
        return false;
      case "merge":
        return this.#mergeBoth(state, report);
    }
  }

  async #agree({ key, note, noteRevision, here, there, epoch }: State): Promise<void> {
    if (here.held === undefined) return;
    const agreed = agreedOn(note, here.held, { near: here.revision, far: there.revision, epoch });
    await writeNote(this.#near, key, agreed, noteRevision);
    this.#forget(key);
  }

  async #send({ key, note, noteRevision, here, there, epoch }: State, report: Report): Promise<void> {
    const { held, revision: near } = here;
    if (held === undefined || this.#refused.get(key) === near) return;
    const after = await writeNote(this.#near, key, withSending(note, { near, hash: hashOf(held) }), noteRevision);
    const far = await putAfter(this.#far, key, there.revision, held);
    await writeNote(this.#near, key, agreedOn(note, held, { near, far, epoch }), after);
    this.#forget(key);
    report.sent.add(key);
    this.queue.emit("sent", { key });
  }

  async #receive(state: State, report: Report): Promise<void> {
    const { key, note, here, there, epoch } = state;
    if (there.held === undefined) return;
    const agreed = agreedOn(note, there.held, { near: here.revision, far: there.revision, epoch });
    await this.#put(state, there.held, agreed);
    report.received.add(key);
    this.#forget(key);
  }

  async #mergeBoth(state: State, report: Report): Promise<boolean> {
    const { key, note, here, there, epoch } = state;
    // Where nobody knows which of both is newer, what was agreed once is nothing to begin with.
    const isKnown = relationOf(note, there, epoch) === "newer" && !isMadeAnew(note, here, there);
    const base = isKnown ? note.base : undefined;
    const conflict = conflictOf(key, base, here.held, there);
    if (conflict === undefined || there.held === undefined) return false;
    const { kind, mine, theirs } = conflict;
    const merged =
      mine === undefined || theirs === undefined
        ? undefined
        : this.#merge?.(kind, { base: conflict.base, mine, theirs });
    if (merged === undefined) {
      const isNew = !isSameConflict(this.#conflicts.get(key)?.conflict, conflict);
      this.#conflicts.set(key, { conflict, epoch });
      report.conflicts.push(conflict);
      if (isNew) this.queue.emit("conflict", conflict);
      return false;
    }
    const agreed = agreedOn(note, there.held, { near: here.revision, far: there.revision, epoch });
    await this.#put(state, { kind, content: merged }, agreed);
    report.received.add(key);
    this.#forget(key);
    return true;
  }

  /**
   * Stores something here that its user did not. The note is written first, so that a program that comes after an interruption knows what
   * is agreed about if it is stored, and that the old agreement holds if it is not.
   */
  async #put(
    state: Pick<State, "key" | "note" | "noteRevision" | "here">,
    held: Held,
    agreed: ReplicatedState,
  ): Promise<void> {
    const { key, note, noteRevision, here } = state;
    const hash = hashOf(held);
    const after = await writeNote(this.#near, key, { ...note, draft: { ...agreed, hash } }, noteRevision);
    const revision = isSameHeld(here.held, held) ? here.revision : await putAfter(this.#near, key, here.revision, held);
    const isReceived = agreed.marks[0]?.hash === hash;
    await writeNote(this.#near, key, { ...agreed, near: isReceived ? revision : agreed.near }, after);
    const before = contentOf(here.held);
    if (held.kind !== undefined) this.queue.emit("received", { key, revision, before, content: contentOf(held) });
  }

  #forget(key: string): void {
    this.#conflicts.delete(key);
    this.#refused.delete(key);
  }
}

function conflictOf(
  key: string,
  base: Held | undefined,
  mine: Held | undefined,
  { revision, held: theirs }: Found,
): SaveConflict | undefined {
  // Texts that are no saves have nothing that could be compared or shown.
  if (mine?.kind === undefined || theirs?.kind === undefined) return undefined;
  const kind = isRemoval(mine) ? theirs.kind : mine.kind;
  if (!isRemoval(theirs) && theirs.kind !== kind) return undefined;
  const known = base?.kind === kind ? contentOf(base) : undefined;
  return { key, kind, revision, base: known, mine: contentOf(mine), theirs: contentOf(theirs) };
}

/** The content of a save; `undefined` where there is none, or it was removed. */
function contentOf(held: Held | undefined): Json | undefined {
  return held?.kind === undefined || isRemoval(held) ? undefined : held.content;
}

function heldOf(kind: string, content: Json | undefined): Held & { readonly kind: string } {
  return content === undefined ? { kind: removedKind, content: null } : { kind, content };
}

function isSameConflict(one: SaveConflict | undefined, other: SaveConflict): boolean {
  if (one === undefined || one.key !== other.key || one.revision !== other.revision) return false;
  return (
    isSameHeld(heldOf(one.kind, one.mine), heldOf(other.kind, other.mine)) &&
    isSameHeld(heldOf(one.kind, one.theirs), heldOf(other.kind, other.theirs))
  );
}

function changedSince(key: string): MantleError {
  return new MantleError(
    "conflict",
    `"${key}" was stored again after this conflict was found, so nothing was replaced. Call sync, and decide about the conflict that it finds.`,
  );
}

function isCode(error: unknown, code: MantleError["code"]): error is MantleError {
  return error instanceof MantleError && error.code === code;
}
