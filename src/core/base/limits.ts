import { type Message, message } from "./message.ts";

/**
 * How large a document from outside may be. Every reader checks these before it looks at anything else, so that what a stranger sends
 * costs no more than a document of this size.
 */
export const limits = {
  /** UTF-16 code units of the text of a save, and of what a game keeps itself. */
  saveLength: 1_000_000,
  /** UTF-16 code units of the text of a character, or of an edit, that a stranger sends. */
  characterLength: 32_000,
  /** UTF-16 code units of the text of a catalog, all its files together. */
  catalogLength: 16_000_000,
  /** How many files a catalog may include. */
  files: 2_000,
  /** Bytes of a picture's file. */
  pictureBytes: 64_000_000,
  /** How many edits may stand together in one. */
  edits: 200,
  /** How many objects and lists may stand in one another. */
  depth: 64,
  /** How many findings a reader returns; the last one counts those left out. */
  findings: 100,
  /** UTF-16 code units of the entries of a file that have a wrong form, together: what is beyond is counted, and not looked into. */
  entryLength: 100_000,
  /** How many bodies may extend one another in a row. */
  lineage: 32,
  /** Frames of an animation, and pixels of a frame on a side. */
  frames: 1_000,
  frameSize: 4_096,
  /** Pixels of a picture that is read or made. */
  pixels: 2 ** 26,
  /** Frames of a baked sheet. */
  bakedFrames: 65_536,
  /** UTF-16 code units of a name, besides the letters that the catalog allows: marks upon marks are letters to nobody. */
  nameLength: 256,
  /** UTF-16 code units of an id or an answer in a character. */
  answerLength: 512,
  /** How many of a part one stack may hold. */
  stack: 1_000_000,
  /** How many stacks of one part a bag may hold. */
  stacks: 1_000,
} as const;

/** A parsed text, or why it is refused. */
export type Parsed = { readonly ok: true; readonly value: unknown } | { readonly ok: false; readonly reason: Message };

/** Parses JSON that is no longer than a limit. A byte order mark is read over. */
export function parseText(text: string, length: number): Parsed {
  if (text.length > length) return { ok: false, reason: message("text-too-long", { count: text.length, max: length }) };
  try {
    return { ok: true, value: JSON.parse(withoutMark(text)) };
  } catch {
    return { ok: false, reason: message("text-not-json") };
  }
}

/** The same for what is nested no deeper than all documents may be, and has no number that JSON has not. */
export function parseWithin(text: string, length: number): Parsed {
  const parsed = parseText(text, length);
  const reason = parsed.ok ? beyondLimits(parsed.value, length) : undefined;
  return reason === undefined ? parsed : { ok: false, reason };
}

/** A text without the byte order mark that some editors write before it. */
export function withoutMark(text: string): string {
  return text.replace(/^\uFEFF/, "");
}

/**
 * Why a value is no document: it is nested too deep, as a circle is; it is not JSON; or it is larger than a text of
 * the given length can be. `undefined` when it is one. Looks at no more values than such a text can have.
 */
export function beyondLimits(root: unknown, length: number): Message | undefined {
  return measure(root, length).reason;
}

/** The same, and how many characters are left of the length. */
export function measure(
  root: unknown,
  length: number,
): { readonly reason: Message | undefined; readonly left: number } {
  const room = { left: length, length };
  const reason = lookInto(root, 1, room);
  return { reason, left: Math.max(0, room.left) };
}

/** How many characters are left of those that a document may have. */
interface Room {
  left: number;
  readonly length: number;
}

/** Calls itself as deep as documents may be nested, and no deeper. */
function lookInto(value: unknown, depth: number, room: Room): Message | undefined {
  room.left -= 1;
  if (room.left < 0) return tooLarge(room.length);
  switch (typeof value) {
    case "string":
      room.left -= value.length;
      return room.left < 0 ? tooLarge(room.length) : undefined;
    case "number":
      return Number.isFinite(value) ? undefined : message("number-not-json", { value: String(value) });
    case "boolean":
      return undefined;
    case "object":
      break;
    default:
      return message("type-not-json", { type: typeof value });
  }
  if (value === null) return undefined;
  if (depth > limits.depth) return message("nested-too-deep", { max: limits.depth });
  if (Array.isArray(value)) {
    // Counted first: a list may say that it is longer than memory.
    if (value.length > room.left) return tooLarge(room.length);
    for (const each of value) {
      const reason = lookInto(each, depth + 1, room);
      if (reason !== undefined) return reason;
    }
    return undefined;
  }
  const record = value as Readonly<Record<string, unknown>>;
  for (const key in record) {
    room.left -= key.length;
    const each = record[key];
    // As everywhere in JSON, a key without a value is not there.
    const reason = each === undefined ? undefined : lookInto(each, depth + 1, room);
    if (reason !== undefined) return reason;
  }
  return undefined;
}

function tooLarge(length: number): Message {
  return message("document-too-large", { max: length });
}

/** A text from a stranger, short enough for a sentence. */
export function shorten(text: string): string {
  return text.length > 60 ? `${text.slice(0, 57)}…` : text;
}
