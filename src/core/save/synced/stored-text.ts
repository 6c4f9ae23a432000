import { canonicalText } from "../../base/canonical-text.ts";
import { getOrInsert } from "../../base/get-or-insert.ts";
import { sha256Of } from "../../base/sha256.ts";
import type { Json } from "../json.ts";
import { removeSave, writeSave } from "../saves.ts";
import { decodeSave, encodeSave, removedKind } from "../seal.ts";
import type { Store } from "../store.ts";

/** What a store holds under a key, without the number of its generation: equal for the same content, wherever it is stored. */
export type Held =
  /** A whole save. */
  | { readonly kind: string; readonly content: Json }
  /** A text that is no save, or one that this version cannot open; it is kept letter by letter. */
  | { readonly kind: undefined; readonly text: string };

/** What is under a key. */
export interface Found {
  /** Of the newest generation; 0 where there is none. */
  readonly revision: number;
  /** What the newest generation holds; `undefined` where there is none, or none that can be read. */
  readonly held: Held | undefined;
  /** All generations that can be read, the newest first. */
  readonly generations: readonly { readonly revision: number; readonly held: Held }[];
}

/** What is under a key. */
export async function find(store: Store, key: string): Promise<Found> {
  const generations = await store.read(key);
  const readable = generations.flatMap(({ revision, text }) =>
    text === undefined ? [] : [{ revision, held: heldIn(text) }],
  );
  const revision = generations[0]?.revision ?? 0;
  return { revision, held: readable.find((each) => each.revision === revision)?.held, generations: readable };
}

function heldIn(text: string): Held {
  const opened = decodeSave(text);
  return opened.ok ? { kind: opened.kind, content: opened.content } : { kind: undefined, text };
}

/** Whether both hold the same. */
export function isSameHeld(one: Held | undefined, other: Held | undefined): boolean {
  if (one === undefined || other === undefined) return one === other;
  return hashOf(one) === hashOf(other);
}

const hashes = new WeakMap<Held, string>();

/** The SHA-256 of what is held, of which half tells any two apart. */
export function hashOf(held: Held): string {
  return getOrInsert(hashes, held, () => sha256Of(canonicalText(held)).slice(0, 32));
}

/** Whether it says that a save was removed. */
export function isRemoval(held: Held | undefined): boolean {
  return held?.kind === removedKind;
}

/**
 * Stores it as the generation after the one that was read.
 *
 * @returns the revision that holds it.
 * @throws MantleError `changed-elsewhere` when there is a newer one that holds something else.
 */
export async function putAfter(store: Store, key: string, after: number, held: Held): Promise<number> {
  if (isRemoval(held) && after > 0) return removeSave(store, key, { after });
  if (held.kind === removedKind) {
    await store.write(key, { revision: 1, text: encodeSave(removedKind, null, { key, revision: 1 }) }, []);
    return 1;
  }
  if (held.kind !== undefined) return writeSave(store, key, held.kind, held.content, { after });
  await store.write(key, { revision: after + 1, text: held.text }, after === 0 ? [] : [after]);
  return after + 1;
}

/** As content of a save of its own. */
export function asJson(held: Held | undefined): Json {
  if (held === undefined) return null;
  return held.kind === undefined ? { text: held.text } : { kind: held.kind, content: held.content };
}

/** The reverse of `asJson`. */
export function fromJson(value: Json | undefined): Held | undefined {
  if (typeof value !== "object" || value === null || Array.isArray(value)) return undefined;
  const { kind, content, text } = value as { readonly kind?: Json; readonly content?: Json; readonly text?: Json };
  if (typeof kind === "string" && content !== undefined) return { kind, content };
  return typeof text === "string" ? { kind: undefined, text } : undefined;
}
