import { getOrInsert } from "../get-or-insert.ts";
import { limits, measure } from "../limits.ts";
import type { Message } from "../message.ts";
import { isRecord, type Path } from "./bounds.ts";
import { findMismatches, type Mismatch } from "./find-mismatches.ts";
import type { Form } from "./forms.ts";
import { type QuickCheck, quickCheck } from "./quick-check.ts";

/** What is wrong with the form of a document: the first hundred mismatches, and how many there are besides. */
export interface FormIssues {
  readonly mismatches: readonly Mismatch[];
  /** Entries that are too large to be looked into, by the keys that lead to them, with what is too large. */
  readonly beyond: readonly { readonly path: Path; readonly reason: Message }[];
  readonly more: number;
}

const allIsWell: FormIssues = { mismatches: [], beyond: [], more: 0 };

/**
 * Checks the form of a document. Costs a walk over what is right; what is wrong, which takes many times as long and as much memory, is
 * looked for entry by entry, and only in the first that are.
 */
export function checkForm(form: Form, content: unknown): FormIssues {
  if (quick(form)(content)) return allIsWell;
  const mismatches: Mismatch[] = [];
  const beyond: { path: Path; reason: Message }[] = [];
  let more = 0;
  let left: number = limits.entryLength;
  for (const piece of piecesOf(form, content)) {
    if (quick(piece.form)(piece.content)) continue;
    const room = limits.findings - mismatches.length - beyond.length;
    if (room <= 0) {
      more += 1;
      continue;
    }
    const measured = measure(piece.content, left);
    left = measured.left;
    if (measured.reason === undefined) {
      const found = mismatchesIn(piece);
      for (const mismatch of found.slice(0, room)) mismatches.push(mismatch);
      more += Math.max(0, found.length - room);
    } else if (mismatches.length + beyond.length === 0 || left > 0)
      beyond.push({ path: piece.path, reason: measured.reason });
    else more += 1;
  }
  return { mismatches, beyond, more };
}

/** A piece of a document that can be checked by itself. */
interface Piece {
  readonly form: Form;
  readonly content: unknown;
  /** The keys that lead to it. */
  readonly path: Path;
  /** How many of these keys it holds itself. */
  readonly held: number;
}

/** The sections entry by entry, then what is left of the document. */
function* piecesOf(form: Form, content: unknown): Iterable<Piece> {
  if (!isRecord(content)) return yield { form, content, path: [], held: 0 };
  // Made of entries, so that a key "__proto__" is one like any other.
  const rest: [key: string, value: unknown][] = [];
  for (const [key, value] of Object.entries(content)) {
    const section = sectionOf(form, key);
    if (section?.type === "record" && isRecord(value)) {
      for (const [id, entry] of Object.entries(value))
        yield { form: section.form, content: { [id]: entry }, path: [key, id], held: 1 };
      rest.push([key, {}]);
    } else if (section?.type === "array" && Array.isArray(value)) {
      for (const [at, entry] of value.entries())
        yield { form: section.element, content: entry, path: [key, at], held: 0 };
      rest.push([key, []]);
    } else rest.push([key, value]);
  }
  yield { form, content: Object.fromEntries(rest), path: [], held: 0 };
}

type Section = { readonly type: "record"; readonly form: Form } | { readonly type: "array"; readonly element: Form };

/** A section of many entries; `undefined` for a key that holds one thing, or is not known. */
function sectionOf(form: Form, key: string): Section | undefined {
  const field = form.type === "object" && Object.hasOwn(form.entries, key) ? form.entries[key] : undefined;
  const inner = field !== undefined && "wrapped" in field ? field.wrapped : field;
  // What has bounds of its own is checked whole.
  if (inner === undefined || (inner.bounds?.length ?? 0) > 0) return undefined;
  if (inner.type === "record") return { type: "record", form: inner };
  return inner.type === "array" ? { type: "array", element: inner.item } : undefined;
}

function mismatchesIn({ form, content, path, held }: Piece): readonly Mismatch[] {
  return findMismatches(form, content, path.slice(0, path.length - held));
}

function quick(form: Form): QuickCheck {
  return getOrInsert(quickChecks, form, () => quickCheck(form));
}

const quickChecks = new WeakMap<Form, QuickCheck>();
