import type * as z from "zod/mini";
import { type Fix, type Problem, pointerTo } from "../problem.ts";
import { suggest } from "../suggest.ts";

type Issue = z.core.$ZodIssue;
type UnionIssue = Extract<Issue, { code: "invalid_union" }>;

const forms: readonly (readonly [RegExp, string, string])[] = [
  [/#\[0-9a-f\]\{6\}/, "is not a color", "Write a color as # and six hexadecimal digits, like #4a5bb5."],
  [
    /part\|tag\|slot/,
    "is not a pattern",
    'Write a pattern as "part:", "tag:" or "slot:" and an id, like "tag:brimmed".',
  ],
  [/\^\[a-z\]/, "is not an id", 'Write an id in lower-case words joined by hyphens, like "storm-hat".'],
];

/** Turns a finding of the schema into a problem with a sentence of our own. */
export function explainIssue(issue: Issue, root: unknown, file: string): Problem {
  const path = issue.path as readonly (string | number)[];
  const { because, fixes, at = [] } = explain(issue, lookUp(root, path));
  const code = issue.code === "unrecognized_keys" ? "unknown-key" : "wrong-form";
  return { code, severity: "error", place: { file, pointer: pointerTo(...path, ...at) }, because, fixes };
}

interface Explanation {
  readonly because: string;
  readonly fixes: readonly Fix[];
  /** Where inside what the finding is about. */
  readonly at?: readonly (string | number)[];
}

const listedInSchema = "Correct the spelling or remove it; the catalog schema lists the keys.";

function explain(issue: Issue, found: unknown): Explanation {
  switch (issue.code) {
    case "unrecognized_keys":
      return {
        because: `${issue.keys.map(quote).join(", ")} ${issue.keys.length === 1 ? "is not a key" : "are not keys"} known here.`,
        fixes: [{ say: listedInSchema }],
      };
    case "invalid_key": {
      const key = String(issue.path.at(-1));
      return formProblem(key, issue.issues[0]);
    }
    case "invalid_format":
      return formProblem(found, issue);
    case "invalid_value":
      return {
        because: found === undefined ? missing(issue) : `${show(found)} is not one of the values allowed here.`,
        fixes: suggest(
          typeof found === "string" ? found : "",
          issue.values.map(String),
          (value) => `Write "${value}".`,
          `Write one of ${issue.values.map(quote).join(", ")}.`,
        ),
      };
    case "invalid_type":
      return {
        because:
          found === undefined ? missing(issue) : `${show(found)} stands where ${article(issue.expected)} belongs.`,
        fixes: [{ say: `Write ${article(issue.expected)}.` }],
      };
    case "too_small":
      return isNumber(issue)
        ? {
            because: `${show(found)} is too small.`,
            fixes: [
              {
                say: issue.inclusive === false ? `Give more than ${issue.minimum}.` : `Give at least ${issue.minimum}.`,
              },
            ],
          }
        : { because: `${show(found)} is too short.`, fixes: [{ say: `Give at least ${issue.minimum} of them.` }] };
    case "too_big":
      return isNumber(issue)
        ? { because: `${show(found)} is too large.`, fixes: [{ say: `Give at most ${issue.maximum}.` }] }
        : { because: `${show(found)} is too long.`, fixes: [{ say: `Give at most ${issue.maximum} of them.` }] };
    case "invalid_union":
      return explainUnion(issue, found);
    default:
      return {
        because: `${show(found)} has a form that is not known here.`,
        fixes: [{ say: "See the catalog schema for the forms allowed." }],
      };
  }
}

/** What is wrong by the form that comes nearest to what was found. */
function explainUnion(issue: UnionIssue, found: unknown): Explanation {
  const advice = `Write ${expectedIn(issue)}.`;
  if (found === undefined) return { because: missing(issue), fixes: [{ say: advice }] };
  const form = nearestForm(issue);
  const [unknown] = form === undefined ? [] : unknownKeys(form);
  if (form !== undefined && unknown !== undefined) return unknownKey(issue, form, unknown, found);
  if (form !== undefined && !Array.isArray(found) && Object.keys(found as object).length === 0) {
    const heads = issue.errors.flatMap((each) => missingKeys(each).slice(0, 1).map(quote)).join(", ");
    return { because: `Nothing is said here: one of ${heads} is missing.`, fixes: [{ say: "Write one of them." }] };
  }
  const nearest = form?.[0] ?? issue.errors.flat().find((each) => each.code !== "invalid_type");
  if (nearest === undefined) return { because: `${show(found)} is not what belongs here.`, fixes: [{ say: advice }] };
  const path = nearest.path as readonly (string | number)[];
  const nested = explain({ ...nearest, path: [...issue.path, ...path] } as Issue, lookUp(found, path));
  return { ...nested, at: [...path, ...(nested.at ?? [])] };
}

/** The findings by the form that knows most of the keys that are there; `undefined` where it is not of the kind of any form. */
function nearestForm(issue: UnionIssue): readonly Issue[] | undefined {
  const forms = issue.errors.filter((form) =>
    form.some(({ code, path }) => path.length > 0 || code === "unrecognized_keys"),
  );
  const count = (form: readonly Issue[]) => unknownKeys(form).length;
  return forms.toSorted((one, other) => count(one) - count(other) || one.length - other.length)[0];
}

/** A key that the nearest form does not know: mostly one that is missing there, misspelled. */
function unknownKey(issue: UnionIssue, form: readonly Issue[], key: string, found: unknown): Explanation {
  const isNothingKnown = Object.keys(found as object).length === unknownKeys(form).length;
  const known = missingKeys(isNothingKnown ? issue.errors.flat() : form);
  const others = `Write one of ${[...new Set(known)].map(quote).join(", ")}.`;
  return {
    because: `"${key}" is not a key known here.`,
    fixes: suggest(key, known, (meant) => `Write "${meant}".`, known.length === 0 ? listedInSchema : others),
  };
}

function unknownKeys(form: readonly Issue[]): readonly string[] {
  return form.flatMap((each) => (each.code === "unrecognized_keys" && each.path.length === 0 ? each.keys : []));
}

/** Keys of the value itself that a form wants, and that are wrong or not there. */
function missingKeys(issues: readonly Issue[]): readonly string[] {
  return issues.flatMap(({ path: [key, ...more] }) => (typeof key === "string" && more.length === 0 ? [key] : []));
}

function isNumber(issue: Issue): boolean {
  return "origin" in issue && (issue.origin === "number" || issue.origin === "int");
}

/** The kinds of value that any branch of a union takes: `a number or an object`. */
function expectedIn(issue: UnionIssue): string {
  const kinds = issue.errors
    .flat()
    .flatMap((each) => (each.code === "invalid_type" && each.path.length === 0 ? [article(each.expected)] : []));
  return kinds.length === 0 ? "one of the forms in the catalog schema" : [...new Set(kinds)].join(" or ");
}

function missing(issue: Issue): string {
  return `"${String(issue.path.at(-1) ?? "document")}" is missing.`;
}

function formProblem(found: unknown, issue: Issue | undefined): Explanation {
  const pattern = issue?.code === "invalid_format" ? (issue.pattern ?? "") : "";
  const [, what, hint] = forms.find(([source]) => source.test(pattern)) ?? [
    "",
    "has a form that is not known here",
    "See the catalog schema for the forms allowed.",
  ];
  return { because: `${show(found)} ${what}.`, fixes: [{ say: hint }] };
}

function article(expected: string): string {
  const names: Record<string, string> = {
    int: "a whole number",
    record: "an object",
    tuple: "a list",
    array: "a list",
    object: "an object",
  };
  return names[expected] ?? `a ${expected}`;
}

function quote(value: unknown): string {
  return `"${String(value)}"`;
}

function show(value: unknown): string {
  if (Array.isArray(value)) return value.length === 0 ? "An empty list" : "A list";
  if (value === null) return "null";
  if (typeof value === "object") return "An object";
  if (typeof value === "string") return `"${value.length > 60 ? `${value.slice(0, 57)}…` : value}"`;
  return String(value);
}

function lookUp(root: unknown, path: readonly (string | number)[]): unknown {
  let value = root;
  for (const key of path) {
    if (typeof value !== "object" || value === null || !Object.hasOwn(value, key)) return undefined;
    value = (value as Record<string | number, unknown>)[key];
  }
  return value;
}
