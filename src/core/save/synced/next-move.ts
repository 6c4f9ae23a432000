import { type Found, hashOf, isRemoval, isSameHeld } from "./stored-text.ts";
import { agreedOn, isSameMark, type Mark, type SyncNote } from "./sync-note.ts";

/** What is done next of a key, so that both stores come to hold the same. */
export type Move =
  /** Both hold the same already, or nothing can be done. */
  | "nothing"
  /** Both hold the same, and it is not noted yet. */
  | "agree"
  | "send"
  | "receive"
  /** Both changed it, or it is not known which of them did. */
  | "merge";

/** @param epoch - of the other store, now. */
export function nextMove(note: SyncNote, here: Found, there: Found, epoch: string | undefined): Move {
  // What cannot be read is left alone, on either side.
  if ([here, there].some(({ revision, held }) => revision > 0 && held === undefined)) return "nothing";
  const isNoted = here.revision === note.near && there.revision === note.far && note.epoch === epoch;
  if (isSameHeld(here.held, there.held)) return isNoted || here.revision === 0 ? "nothing" : "agree";
  if (here.revision === 0) return "receive";
  // What is not there at all is lost there: a save that was removed says so.
  if (there.revision === 0) return isRemoval(here.held) ? "nothing" : "send";
  switch (relationOf(note, there, epoch)) {
    case "known":
      return "send";
    case "newer":
      return isAsAgreed(note, here) ? "receive" : "merge";
    case "unknown":
      return "merge";
  }
}

/**
 * What the newest generation there is to what was agreed about: that, or an older one, that this device has seen; one that was made upon it;
 * or one of which nobody here knows, as in a store that an older copy has replaced.
 */
export function relationOf(note: SyncNote, there: Found, epoch: string | undefined): "known" | "newer" | "unknown" {
  const marksThere = there.generations.map(({ revision, held }): Mark => ({ revision, hash: hashOf(held) }));
  if (note.marks.some((mark) => isSameMark(marksThere[0], mark))) return "known";
  const [agreed] = note.marks;
  const isUpon = agreed !== undefined && marksThere.some((mark) => isSameMark(agreed, mark));
  return isUpon || (note.epoch === epoch && there.revision > note.far) ? "newer" : "unknown";
}

/** Whether the save was removed and made again since both agreed, on either side: it is not the same save then. */
export function isMadeAnew({ near, far }: SyncNote, here: Found, there: Found): boolean {
  const isAnew = ({ revision: newest, generations }: Found, agreed: number) =>
    generations.some(({ revision, held }) => revision > agreed && revision < newest && isRemoval(held));
  return isAnew(here, near) || isAnew(there, far);
}

/** Whether nothing was stored here since both agreed. */
function isAsAgreed({ near, marks: [agreed] }: SyncNote, here: Found): boolean {
  if (here.revision !== near || here.held === undefined) return false;
  return agreed === undefined || agreed.hash === hashOf(here.held);
}

/** The note, once it is known what came of what was sent without an answer. */
export function afterSending(note: SyncNote, there: Found, epoch: string | undefined): SyncNote {
  const { sent = [], ...rest } = note;
  if (sent.length === 0 || there.revision <= note.far) return note;
  const hashes = new Map(sent.map(({ hash, near }) => [hash, near]));
  for (const { revision, held } of there.generations) {
    const near = hashes.get(hashOf(held));
    if (near !== undefined && revision > note.far) return agreedOn(rest, held, { near, far: revision, epoch });
  }
  // Where what came after the last agreement is to be seen, another writer made it. Else what was sent may be in what others made of it, and
  // nobody knows; nor does anybody where they had it from a store that was put back since.
  const isSeen = note.epoch === epoch && there.generations.some(({ revision }) => revision === note.far + 1);
  return isSeen ? note : { ...note, base: undefined, marks: [] };
}

/**
 * The note, once it is known whether what was to be stored here is: a program may have ended in between. Where it is not stored, what was
 * agreed before still holds.
 */
export function afterDraft({ draft, ...note }: SyncNote, here: Found): SyncNote {
  if (draft === undefined) return note;
  const stored = here.generations.find(({ revision, held }) => revision > draft.near && hashOf(held) === draft.hash);
  const { hash, ...agreed } = draft;
  if (stored !== undefined) {
    const isReceived = agreed.marks[0]?.hash === hash;
    return { ...agreed, near: isReceived ? stored.revision : agreed.near };
  }
  const isSeen = here.revision === draft.near || here.generations.some(({ revision }) => revision === draft.near + 1);
  return isSeen ? note : { ...note, base: undefined, marks: [] };
}
