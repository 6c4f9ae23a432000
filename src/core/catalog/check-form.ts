import type * as z from "zod/mini";
import { beyondLimits, limits } from "../limits.ts";
import { type Problem, pointerTo } from "../problem.ts";
import { recall } from "../recall.ts";
import { explainIssue } from "./explain-issue.ts";
import { type QuickCheck, quickCheck } from "./quick-check.ts";

/** What is wrong with the form of a file: the first hundred findings, and how many entries have others. */
export interface FormFindings {
  readonly problems: readonly Problem[];
  readonly more: number;
}

type FileSchema = z.ZodMiniObject;

const allIsWell: FormFindings = { problems: [], more: 0 };

/**
 * Checks the form of a file of a catalog. Costs a walk over what is right; the schema library, which takes many times as long and as much
 * memory, is asked what is wrong entry by entry, and only about the first that are.
 */
export function checkForm(schema: FileSchema, content: unknown, file: string): FormFindings {
  const unusable = prototypeKeys(content, file);
  if (unusable.length === 0 && quick(schema)(content)) return allIsWell;
  const problems = [...unusable];
  let more = 0;
  for (const piece of piecesOf(schema, content)) {
    if (quick(piece.schema)(piece.content)) continue;
    if (problems.length >= limits.findings) more += 1;
    else for (const problem of findingsIn(piece, content, file)) problems.push(problem);
  }
  return { problems, more };
}

/** A piece of a file that can be checked by itself. */
interface Piece {
  readonly schema: z.ZodMiniType;
  readonly content: unknown;
  /** The keys that lead to it. */
  readonly path: readonly (string | number)[];
}

/** The sections entry by entry, then what is left of the file. */
function* piecesOf(schema: FileSchema, content: unknown): Iterable<Piece> {
  if (!isRecord(content)) return yield { schema, content, path: [] };
  const rest: Record<string, unknown> = {};
  for (const [key, value] of Object.entries(content)) {
    const section = sectionOf(schema, key);
    if (section?.type === "record" && isRecord(value)) {
      for (const [id, entry] of Object.entries(value))
        yield { schema: section.schema, content: { [id]: entry }, path: [key] };
    } else if (section?.type === "array" && Array.isArray(value)) {
      for (const [at, entry] of value.entries()) yield { schema: section.element, content: entry, path: [key, at] };
    } else rest[key] = value;
  }
  yield { schema, content: rest, path: [] };
}

type Section =
  | { readonly type: "record"; readonly schema: z.ZodMiniType }
  | { readonly type: "array"; readonly element: z.ZodMiniType };

/** A section of many entries; `undefined` for a key that holds one thing, or is not known. */
function sectionOf(schema: FileSchema, key: string): Section | undefined {
  const field = Object.hasOwn(schema.shape, key) ? schema.shape[key] : undefined;
  const { def } = (field as z.core.$ZodTypes | undefined)?._zod ?? {};
  const inner = def?.type === "optional" ? def.innerType : undefined;
  const form = (inner as z.core.$ZodTypes | undefined)?._zod.def;
  if (form?.type === "record") return { type: "record", schema: inner as z.ZodMiniType };
  if (form?.type === "array") return { type: "array", element: form.element as z.ZodMiniType };
  return undefined;
}

function findingsIn({ schema, content, path }: Piece, root: unknown, file: string): readonly Problem[] {
  const beyond = beyondLimits(content, limits.entryLength);
  if (beyond !== undefined) {
    const keys = isRecord(content) && path.length === 1 ? [...path, ...Object.keys(content)] : path;
    return [tooMuch(file, pointerTo(...keys), beyond)];
  }
  const result = schema.safeParse(content);
  if (result.success) return [];
  return result.error.issues
    .slice(0, limits.findings)
    .map((issue) => explainIssue({ ...issue, path: [...path, ...issue.path] }, root, file));
}

function tooMuch(file: string, pointer: string, because: string): Problem {
  const fixes = [{ say: "Make it smaller, and write its conditions flatter." }];
  return { code: "beyond-limits", severity: "error", place: { file, pointer }, because, fixes };
}

function quick(schema: z.ZodMiniType): QuickCheck {
  return recall(quickChecks, schema, () => quickCheck(schema));
}

const quickChecks = new WeakMap<z.ZodMiniType, QuickCheck>();

/** The schema library passes over the key `__proto__`; an author must not lose an entry that way. */
function prototypeKeys(content: unknown, file: string): readonly Problem[] {
  if (!isRecord(content)) return [];
  return Object.entries(content)
    .filter(([, section]) => isRecord(section) && Object.hasOwn(section, "__proto__"))
    .map(([section]) => ({
      code: "wrong-form",
      severity: "error",
      place: { file, pointer: pointerTo(section, "__proto__") },
      because: '"__proto__" is not an id.',
      fixes: [{ say: 'Write an id in lower-case words joined by hyphens, like "storm-hat".' }],
    }));
}

function isRecord(value: unknown): value is Readonly<Record<string, unknown>> {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}
