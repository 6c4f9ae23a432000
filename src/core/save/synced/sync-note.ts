import { limits } from "../../base/limits.ts";
import type { Json } from "../json.ts";
import { readSave, writeSave } from "../saves.ts";
import type { Store } from "../store.ts";
import { asJson, fromJson, type Held } from "./stored-text.ts";

/** What is noted of a key: how far this store and the other one agreed last. */
export interface SyncNote {
  /** The revisions, here and there, that held the same; 0 when there was none. */
  readonly near: number;
  readonly far: number;
  /** What both held then: what a merge begins with. Absent where it was too large to be noted, or is not known. */
  readonly base?: Held | undefined;
  /** What was being sent, and its revision here: it may have come there, though nobody answered. */
  readonly sending?: { readonly near: number; readonly held: Held } | undefined;
  /** What a merge came to that may not be stored here yet. */
  readonly draft?: Held | undefined;
  /** Removed here, and there as well once it can be reached. */
  readonly isRemoved?: boolean;
}

const prefix = "sync-note:";
const kind = "sync-note";

/** The key under which the note of a key is kept. */
export function noteKeyOf(key: string): string {
  return prefix + key;
}

/** The key a note is about; `undefined` for a key that is no note. */
export function keyOfNote(noteKey: string): string | undefined {
  return noteKey.startsWith(prefix) ? noteKey.slice(prefix.length) : undefined;
}

/** The note of a key; one that is missing or damaged is a new one, and then everything is compared anew. */
export async function readNote(store: Store, key: string): Promise<SyncNote> {
  const { content } = await readSave(store, noteKeyOf(key), kind);
  if (typeof content !== "object" || content === null || Array.isArray(content)) return { near: 0, far: 0 };
  const { near, far, base, sending, draft, removed } = content as Readonly<Record<string, never>>;
  return {
    near: Number(near),
    far: Number(far),
    base: fromJson(base),
    sending: sendingIn(sending),
    draft: fromJson(draft),
    isRemoved: removed === true,
  };
}

function sendingIn(value: Json | undefined): SyncNote["sending"] {
  if (typeof value !== "object" || value === null || Array.isArray(value)) return undefined;
  const { near, held }: { readonly near?: Json; readonly held?: Json } = value as { readonly [key: string]: Json };
  const sent = fromJson(held);
  return typeof near === "number" && sent !== undefined ? { near, held: sent } : undefined;
}

/** Keeps a note. */
export async function writeNote(store: Store, key: string, note: SyncNote): Promise<void> {
  const { near, far, base, sending, draft, isRemoved = false } = note;
  await writeSave(store, noteKeyOf(key), kind, {
    mantle: "sync-note/1",
    near,
    far,
    base: ifSmall(base),
    sending: sending === undefined ? null : { near: sending.near, held: ifSmall(sending.held) },
    draft: asJson(draft),
    removed: isRemoved,
  });
}

/** A note of three texts is no longer than a save may be. */
function ifSmall(held: Held | undefined): Json {
  const json = asJson(held);
  return JSON.stringify(json).length < limits.saveLength / 4 ? json : null;
}
