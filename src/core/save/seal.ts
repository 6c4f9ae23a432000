import { sha256 } from "@noble/hashes/sha2.js";
import { bytesToHex, utf8ToBytes } from "@noble/hashes/utils.js";
import canonicalize from "canonicalize";

/** A JSON value. */
export type Json = null | boolean | number | string | readonly Json[] | { readonly [key: string]: Json };

/** What a save holds, and what proves that it is whole. */
export interface SaveDocument {
  readonly mantle: "save/1";
  readonly kind: string;
  readonly content: Json;
  /** `sha256-` and the SHA-256 of the document without this key, in the canonical form of RFC 8785, in hexadecimal. */
  readonly seal: string;
}

/**
 * Seals content as the text of a save. Equal content always gives equal text.
 *
 * The seal proves that a save is whole; it does not prove who wrote it.
 */
export function sealSave(kind: string, content: Json): string {
  const document = { mantle: "save/1", kind, content };
  return canonical({ ...document, seal: sealOf(document) });
}

/** What opening a save gives: its content, or one sentence that says why it cannot be used. */
export type Opened =
  | { readonly ok: true; readonly kind: string; readonly content: Json }
  | { readonly ok: false; readonly because: string };

/** Opens the text of a save, and refuses one that is cut short, changed or of another kind. Never throws. */
export function openSave(text: string, kind?: string): Opened {
  let document: unknown;
  try {
    document = JSON.parse(text);
  } catch {
    return { ok: false, because: "It is cut short, or it is not JSON." };
  }
  if (!isSaveDocument(document)) return { ok: false, because: "It is not a save of this format." };
  const { seal, ...sealed } = document;
  if (seal !== sealOf(sealed))
    return { ok: false, because: "Its seal does not match its content, so something in it has changed." };
  if (kind !== undefined && document.kind !== kind)
    return { ok: false, because: `It holds a ${document.kind}, not a ${kind}.` };
  return { ok: true, kind: document.kind, content: document.content };
}

function isSaveDocument(value: unknown): value is SaveDocument {
  if (typeof value !== "object" || value === null) return false;
  const { mantle, kind, seal, content } = value as Partial<Record<keyof SaveDocument, unknown>>;
  return mantle === "save/1" && typeof kind === "string" && typeof seal === "string" && content !== undefined;
}

function sealOf(document: object): string {
  return `sha256-${bytesToHex(sha256(utf8ToBytes(canonical(document))))}`;
}

function canonical(value: object): string {
  const text = canonicalize(value);
  if (text === undefined) throw new TypeError("A save must be JSON");
  return text;
}
