import type * as z from "zod/mini";
import { limits, measure } from "../limits.ts";
import { recall } from "../recall.ts";
import { type QuickCheck, quickCheck } from "./quick-check.ts";

/** Something in a document that does not have the form it must have. */
export type FormIssue = z.core.$ZodIssue;

/** What is wrong with the form of a document: the first hundred issues, and how many entries have others. */
export interface FormIssues {
  readonly issues: readonly FormIssue[];
  /** Entries that are too large to be looked into, by the keys that lead to them, with a sentence. */
  readonly beyond: readonly { readonly path: readonly (string | number)[]; readonly because: string }[];
  readonly more: number;
}

type DocumentSchema = z.ZodMiniObject;

const allIsWell: FormIssues = { issues: [], beyond: [], more: 0 };

/**
 * Checks the form of a document. Costs a walk over what is right; the schema library, which takes many times as long and as much memory,
 * is asked what is wrong entry by entry, and only about the first that are.
 */
export function checkForm(schema: DocumentSchema, content: unknown): FormIssues {
  if (quick(schema)(content)) return allIsWell;
  const issues: FormIssue[] = [];
  const beyond: { path: readonly (string | number)[]; because: string }[] = [];
  let more = 0;
  let left: number = limits.entryLength;
  for (const piece of piecesOf(schema, content)) {
    if (quick(piece.schema)(piece.content)) continue;
    const room = limits.findings - issues.length - beyond.length;
    if (room <= 0) {
      more += 1;
      continue;
    }
    const measured = measure(piece.content, left);
    left = measured.left;
    if (measured.because === undefined) {
      const found = issuesIn(piece);
      for (const issue of found.slice(0, room)) issues.push(issue);
      more += Math.max(0, found.length - room);
    } else if (issues.length + beyond.length === 0 || left > 0)
      beyond.push({ path: piece.path, because: measured.because });
    else more += 1;
  }
  return { issues, beyond, more };
}

/** A piece of a document that can be checked by itself. */
interface Piece {
  readonly schema: z.ZodMiniType;
  readonly content: unknown;
  /** The keys that lead to it. */
  readonly path: readonly (string | number)[];
  /** How many of these keys it holds itself. */
  readonly held: number;
}

/** The sections entry by entry, then what is left of the document. */
function* piecesOf(schema: DocumentSchema, content: unknown): Iterable<Piece> {
  if (!isRecord(content)) return yield { schema, content, path: [], held: 0 };
  const rest: Record<string, unknown> = {};
  for (const [key, value] of Object.entries(content)) {
    const section = sectionOf(schema, key);
    if (section?.type === "record" && isRecord(value)) {
      for (const [id, entry] of Object.entries(value))
        yield { schema: section.schema, content: { [id]: entry }, path: [key, id], held: 1 };
      rest[key] = {};
    } else if (section?.type === "array" && Array.isArray(value)) {
      for (const [at, entry] of value.entries())
        yield { schema: section.element, content: entry, path: [key, at], held: 0 };
      rest[key] = [];
    } else rest[key] = value;
  }
  yield { schema, content: rest, path: [], held: 0 };
}

type Section =
  | { readonly type: "record"; readonly schema: z.ZodMiniType }
  | { readonly type: "array"; readonly element: z.ZodMiniType };

/** A section of many entries; `undefined` for a key that holds one thing, or is not known. */
function sectionOf(schema: DocumentSchema, key: string): Section | undefined {
  const field = Object.hasOwn(schema.shape, key) ? schema.shape[key] : undefined;
  const outer = (field as z.core.$ZodTypes | undefined)?._zod.def;
  const inner = outer?.type === "optional" ? outer.innerType : field;
  const form = (inner as z.core.$ZodTypes | undefined)?._zod.def;
  if (form?.type === "record") return { type: "record", schema: inner as z.ZodMiniType };
  // A list with bounds of its own is checked whole.
  if (form?.type === "array" && form.checks === undefined)
    return { type: "array", element: form.element as z.ZodMiniType };
  return undefined;
}

function issuesIn({ schema, content, path, held }: Piece): readonly FormIssue[] {
  const result = schema.safeParse(content);
  if (result.success) return [];
  const lead = path.slice(0, path.length - held);
  return result.error.issues.map((issue) => ({ ...issue, path: [...lead, ...issue.path] }));
}

function quick(schema: z.ZodMiniType): QuickCheck {
  return recall(quickChecks, schema, () => quickCheck(schema));
}

const quickChecks = new WeakMap<z.ZodMiniType, QuickCheck>();

function isRecord(value: unknown): value is Readonly<Record<string, unknown>> {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}
