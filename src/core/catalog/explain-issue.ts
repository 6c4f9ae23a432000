import type * as z from "zod/mini";
import { type Fix, type Problem, pointerTo } from "../problem.ts";
import { suggest } from "./suggest.ts";

type Issue = z.core.$ZodIssue;

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
  const { because, fixes } = explain(issue, lookUp(root, path));
  const code = issue.code === "unrecognized_keys" ? "unknown-key" : "wrong-form";
  return { code, severity: "error", place: { file, pointer: pointerTo(...path) }, because, fixes };
}

function explain(issue: Issue, found: unknown): { because: string; fixes: readonly Fix[] } {
  switch (issue.code) {
    case "unrecognized_keys":
      return {
        because: `${issue.keys.map(quote).join(", ")} ${issue.keys.length === 1 ? "is not a key" : "are not keys"} known here.`,
        fixes: [{ say: "Correct the spelling or remove it; the catalog schema lists the keys." }],
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
    case "invalid_union": {
      const advice = `Write ${expectedIn(issue)}.`;
      if (found === undefined) return { because: missing(issue), fixes: [{ say: advice }] };
      const nearest = issue.errors.find((branch) => branch.some((each) => each.path.length > 0))?.[0] ?? formOf(issue);
      if (nearest === undefined)
        return { because: `${show(found)} is not what belongs here.`, fixes: [{ say: advice }] };
      return explain(
        { ...nearest, path: [...issue.path, ...nearest.path] } as Issue,
        lookUp(found, nearest.path as (string | number)[]),
      );
    }
    default:
      return {
        because: `${show(found)} has a form that is not known here.`,
        fixes: [{ say: "See the catalog schema for the forms allowed." }],
      };
  }
}

function isNumber(issue: Issue): boolean {
  return "origin" in issue && (issue.origin === "number" || issue.origin === "int");
}

/** The kinds of value that any branch of a union takes: `a number or an object`. */
function expectedIn(issue: Extract<Issue, { code: "invalid_union" }>): string {
  const kinds = issue.errors
    .flat()
    .flatMap((each) => (each.code === "invalid_type" && each.path.length === 0 ? [article(each.expected)] : []));
  return kinds.length === 0 ? "one of the forms in the catalog schema" : [...new Set(kinds)].join(" or ");
}

function missing(issue: Issue): string {
  return `"${String(issue.path.at(-1) ?? "document")}" is missing.`;
}

function formOf(issue: Extract<Issue, { code: "invalid_union" }>): Issue | undefined {
  return issue.errors.flat().find((each) => each.code !== "invalid_type");
}

function formProblem(found: unknown, issue: Issue | undefined): { because: string; fixes: readonly Fix[] } {
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
