import { canonicalText } from "../base/canonical-text.ts";
import { beyondLimits, limits, parseWithin, shorten } from "../base/limits.ts";
import { type Message, message } from "../base/message.ts";
import { codesOf, MantleError } from "../base/problem.ts";
import { sha256Of } from "../base/sha256.ts";
import { formNumber, type Json } from "./json.ts";
import { type Migration, migrated, newestForm } from "./migrations.ts";

/** Where a save belongs in a store. */
export interface SaveLocation {
  readonly key: string;
  readonly revision: number;
}

/** What a save holds, and what proves that it is whole. */
export interface SaveDocument {
  readonly mantle: "save/1";
  readonly kind: string;
  /** Absent from a save that belongs to no store. */
  readonly address?: SaveLocation;
  readonly content: Json;
  /** `sha256-` and the SHA-256 of the document without this key, in the canonical form of RFC 8785, in hexadecimal. */
  readonly seal: string;
}

/**
 * Seals content as the text of a save. Equal content always gives equal text.
 *
 * The seal proves that a save is whole; it does not prove who wrote it.
 *
 * @param address - where it belongs in a store, so that a copy in another place is noticed.
 * @throws MantleError `bad-content` for content that would not open again: not JSON, such as `NaN` or a circle, or beyond the limits.
 */
export function encodeSave(kind: string, content: Json, address?: SaveLocation): string {
  const document = { mantle: form, kind, content, ...(address === undefined ? {} : { address }) };
  const beyond = beyondLimits(document, limits.saveLength);
  if (beyond !== undefined) throw badContent(codesOf([beyond]));
  // In the canonical order of keys, the seal comes last.
  const plain = canonicalText(document);
  const text = plain.slice(0, -1) + sealAtEnd(sealOf(plain));
  if (text.length > limits.saveLength) throw badContent(`Its text is longer than ${limits.saveLength} characters.`);
  return text;
}

function badContent(because: string): MantleError {
  return new MantleError("bad-content", `This cannot be saved. ${because}`);
}

/** What opening a save gives: its content, or why it cannot be used. */
export type Opened =
  | {
      readonly ok: true;
      readonly kind: string;
      readonly content: Json;
      readonly address: SaveLocation | undefined;
    }
  | {
      readonly ok: false;
      /** `newer-save` when it, or what it holds, has a form that a later version of this library writes. */
      readonly code: "damaged-save" | "newer-save" | "other-save";
      readonly reason: Message;
    };

const form = "save/1";

/** What a save holds that was removed: it stays as one more generation, so that everybody who had the save learns of it. */
export const removedKind = "removed";

/**
 * Opens the text of a save, and refuses one that is cut short, changed, of another kind or beyond the limits.
 *
 * @param kind - what it has to hold, for example `"character"`; anything when left out. A save that was removed opens as `"removed"`.
 * @param migrations - of the game's own kinds: content of an older form becomes that of the newest.
 * @throws MantleError `bad-migration`, and what a migration throws; for a text it never throws.
 */
export function decodeSave(text: string, kind?: string, migrations: readonly Migration[] = []): Opened {
  const parsed = parseWithin(text, limits.saveLength);
  if (!parsed.ok) return damaged(parsed.reason);
  const document = parsed.value;
  const number = formNumber(document, "save");
  if (number !== undefined && number > 1) return newer(`save/${number}`);
  if (!isSaveDocument(document)) return damaged(message("save-of-no-form"));
  if (!isSealed(text, document)) return damaged(message("seal-mismatch"));
  const { kind: found, content, address } = document;
  if (kind !== undefined && found !== kind && found !== removedKind)
    return { ok: false, code: "other-save", reason: message("save-of-other-kind", { found: shorten(found), kind }) };
  const contentForm = formNumber(content, found);
  if (contentForm === undefined) return { ok: true, kind: found, content, address };
  if (contentForm > newestForm(found, migrations)) return newer(`${found}/${contentForm}`);
  return { ok: true, kind: found, content: migrated(found, content, contentForm, migrations), address };
}

/** Whether a seal is that of its document. As long as nobody has written it anew, the text is its own canonical form. */
function isSealed(text: string, { seal, ...sealed }: SaveDocument): boolean {
  const end = sealAtEnd(seal);
  if (text.endsWith(end) && seal === sealOf(`${text.slice(0, -end.length)}}`)) return true;
  return seal === sealOf(canonicalText(sealed));
}

function sealAtEnd(seal: string): string {
  return `,"seal":"${seal}"}`;
}

function damaged(reason: Message): Opened {
  return { ok: false, code: "damaged-save", reason };
}

function newer(found: string): Opened {
  return { ok: false, code: "newer-save", reason: message("save-of-newer-form", { form: found }) };
}

function isSaveDocument(value: unknown): value is SaveDocument {
  if (typeof value !== "object" || value === null) return false;
  const { mantle, kind, seal, content, address } = value as Partial<Record<keyof SaveDocument, unknown>>;
  if (mantle !== form || typeof kind !== "string" || typeof seal !== "string" || content === undefined) return false;
  return address === undefined || isAddress(address);
}

function isAddress(value: unknown): value is SaveLocation {
  if (typeof value !== "object" || value === null) return false;
  const { key, revision } = value as Partial<Record<keyof SaveLocation, unknown>>;
  return typeof key === "string" && Number.isSafeInteger(revision);
}

function sealOf(plain: string): string {
  return `sha256-${sha256Of(plain)}`;
}
