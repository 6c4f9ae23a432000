import { beyondLimits, limits } from "../../base/limits.ts";
import type { Json } from "../json.ts";
import { readSave, writeSave } from "../saves.ts";
import type { Store } from "../store.ts";
import { asJson, fromJson, type Held, hashOf } from "./stored-text.ts";

/** How far this store and the other one agreed last. */
export interface ReplicatedState {
  /** The revisions, here and there, that held the same; 0 when there was none. */
  readonly near: number;
  readonly far: number;
  /** The epoch of the other store then. */
  readonly epoch: string | undefined;
  /** What both held then: what a merge begins with. Absent where it is too large to be noted, or is not known. */
  readonly base: Held | undefined;
  /** The last generations of the other store that were agreed with, the newest first. */
  readonly marks: readonly Mark[];
}

/** A generation of the other store: it is the same one only where both are equal. */
export interface Mark {
  readonly revision: number;
  /** Of what it holds. */
  readonly hash: string;
}

/** Something that was sent. */
export interface Sending {
  readonly near: number;
  readonly hash: string;
}

/** What is noted of a key. Nothing in it has to be known: where it is lost, everything is compared anew. */
export interface SyncNote extends ReplicatedState {
  /**
   * What was sent since, by its revision here and its hash, and nobody answered: each may have come there, may come there still, and may
   * have been taken from there by another device.
   */
  readonly sent?: readonly Sending[];
  /** What was being stored here after revision `near`, by its hash, and what is agreed about if it was. */
  readonly draft?: (ReplicatedState & { readonly hash: string }) | undefined;
}

/** The note of a key, and the revision by which it is written again. */
export interface ReadNote {
  readonly note: SyncNote;
  readonly revision: number;
}

const prefix = "sync-note:";
const kind = "sync-note";
/** A store that was put back is known again where it is no older than so many agreements. */
const mostMarks = 8;
/** Where more was sent than this and not answered, nobody knows any more what came there. */
const mostSendings = 32;

/** The key under which the note of a key is kept. */
export function noteKeyOf(key: string): string {
  return prefix + key;
}

/** The key a note is about; `undefined` for a key that is no note. */
export function keyOfNote(noteKey: string): string | undefined {
  return noteKey.startsWith(prefix) ? noteKey.slice(prefix.length) : undefined;
}

/** The note of a key; one that is missing or damaged is a new one. */
export async function readNote(store: Store, key: string): Promise<ReadNote> {
  const { content, revision } = await readSave(store, noteKeyOf(key), kind);
  const { sent, draft, ...agreement } = fieldsOf(content);
  const put = fieldsOf(draft);
  const note = {
    ...agreementIn(agreement),
    sent: Array.isArray(sent) ? sent.flatMap(sendingIn) : [],
    draft: typeof put["hash"] === "string" ? { ...agreementIn(put), hash: put["hash"] } : undefined,
  };
  return { note, revision };
}

/**
 * Keeps a note in the place of the one that was read.
 *
 * @returns its revision.
 * @throws MantleError `changed-elsewhere` when another program that has the same store noted something meanwhile.
 */
export async function writeNote(store: Store, key: string, note: SyncNote, after: number): Promise<number> {
  const { sent = [], draft } = note;
  const content = {
    mantle: "sync-note/1",
    ...asNoted(note),
    sent: sent.map(({ near, hash }) => [near, hash]),
    draft: draft === undefined ? null : { ...asNoted(draft), hash: draft.hash },
  };
  return writeSave(store, noteKeyOf(key), kind, content, { after });
}

/** The note once both stores hold the same. */
export function agreedOn(
  { marks }: ReplicatedState,
  held: Held,
  at: Pick<ReplicatedState, "near" | "far" | "epoch">,
): ReplicatedState {
  const mark = { revision: at.far, hash: hashOf(held) };
  return { ...at, base: held, marks: [mark, ...marks.filter((each) => !isSameMark(each, mark))].slice(0, mostMarks) };
}

/** The note before something is sent. */
export function withSending({ sent = [], ...note }: SyncNote, sending: Sending): SyncNote {
  const others = sent.filter(({ hash }) => hash !== sending.hash);
  if (others.length < mostSendings) return { ...note, sent: [...others, sending] };
  return { ...note, base: undefined, marks: [], sent: [sending] };
}

/** Whether both are the same generation. */
export function isSameMark(one: Mark | undefined, other: Mark): boolean {
  return one?.revision === other.revision && one.hash === other.hash;
}

function asNoted({ near, far, epoch, base, marks }: ReplicatedState): Readonly<Record<string, Json>> {
  const held = asJson(base);
  // A save may be as large and as deep as a note, which has no room for it then.
  const hasRoom =
    JSON.stringify(held).length < limits.saveLength / 4 && beyondLimits([[[held]]], limits.saveLength) === undefined;
  const pairs = marks.map(({ revision, hash }) => [revision, hash]);
  return { near, far, epoch: epoch ?? null, base: hasRoom ? held : null, marks: pairs };
}

type Fields = Readonly<Record<string, Json | undefined>>;

function agreementIn({ near, far, epoch, base, marks }: Fields): ReplicatedState {
  return {
    near: numberOf(near),
    far: numberOf(far),
    epoch: typeof epoch === "string" ? epoch : undefined,
    base: fromJson(base),
    marks: Array.isArray(marks) ? marks.flatMap(markIn) : [],
  };
}

function markIn(value: Json): readonly Mark[] {
  const [revision, hash]: readonly unknown[] = Array.isArray(value) ? value : [];
  return typeof revision === "number" && typeof hash === "string" ? [{ revision, hash }] : [];
}

function sendingIn(value: Json): readonly Sending[] {
  return markIn(value).map(({ revision, hash }) => ({ near: revision, hash }));
}

function fieldsOf(value: Json | undefined): Fields {
  return typeof value === "object" && value !== null && !Array.isArray(value) ? (value as Fields) : {};
}

function numberOf(value: Json | undefined): number {
  return typeof value === "number" ? value : 0;
}
