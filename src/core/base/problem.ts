import { limits } from "./limits.ts";
import type { FixCode, Message, Params, ProblemCode } from "./message.ts";

/** How bad a problem is: an `error` must be mended before the data can be used, a `warning` should be looked at. */
export type Severity = "error" | "warning";

/** Where a problem was found. */
export interface Place {
  /** The file, relative to the catalog folder; absent for data that came from no file. */
  readonly file?: string;
  /** JSON Pointer (RFC 6901) to the value inside the document; `""` is the whole document. */
  readonly pointer: string;
  /** Where that is in the text of the file, both counted from 1; absent where nobody looked. */
  readonly line?: number;
  readonly column?: number;
}

/** One way to mend a problem. `edits`, where present, can be applied as they are. */
export interface Fix<Edit = never> extends Message<FixCode> {
  readonly edits?: readonly Edit[];
}

/**
 * A finding as data: what is wrong, where, and how it can be mended. `format` makes the sentence, in any language.
 *
 * Problems are values. Functions that judge data return them; only broken calls and unreadable input throw.
 */
export interface Problem<Edit = never> extends Message<ProblemCode> {
  readonly severity: Severity;
  readonly place: Place;
  /** Further places that have a part in it, such as the rules because of which nothing goes. */
  readonly related?: readonly Place[];
  readonly fixes: readonly Fix<Edit>[];
}

/** The codes of what is thrown. */
export type ErrorCode =
  | ProblemCode
  | "answer-forgotten"
  | "bad-balance"
  | "bad-bundle"
  | "bad-call"
  | "bad-catalog"
  | "bad-color"
  | "bad-content"
  | "bad-drawing"
  | "bad-id"
  | "bad-key"
  | "bad-migration"
  | "bad-name"
  | "bad-preset"
  | "bad-seat"
  | "bad-steps"
  | "cannot-receive"
  | "changed-elsewhere"
  | "closed"
  | "conflict"
  | "character-exists"
  | "endless-answers"
  | "gave-up"
  | "in-use"
  | "missing-file"
  | "missing-model"
  | "no-connection"
  | "no-database"
  | "no-frames"
  | "no-model"
  | "no-solver"
  | "no-spawn"
  | "no-steps"
  | "no-storage"
  | "no-worker"
  | "not-allowed"
  | "nothing-to-roll"
  | "other-character"
  | "other-request"
  | "picture-too-large"
  | "refused"
  | "retired"
  | "rolled-back"
  | "roster-full"
  | "taken"
  | "too-many-frames"
  | "try-later"
  | "unequal-frames"
  | "unfinished"
  | "unreadable-model"
  | "unknown-character"
  | "unknown-crop"
  | "unwritable-file";

/** Thrown for broken calls and unreadable input, and for nothing else. Its message is for developers, in English. */
export class MantleError extends Error {
  override readonly name = "MantleError";
  readonly code: ErrorCode;
  /** The findings behind the error, when there are any; `format` puts them into words. */
  readonly problems: readonly Problem<unknown>[];

  constructor(code: ErrorCode, message: string, problems: readonly Problem<unknown>[] = []) {
    super(message);
    this.code = code;
    this.problems = problems;
  }
}

/**
 * Names problems in an error, for developers, without the sentences of any language: their codes, and what they speak of.
 *
 * @example
 * codesOf(problems) // → 'never-together (part: "storm-hat", other: "hood-up").'
 */
export function codesOf(messages: readonly Message[]): string {
  return messages.map(({ code, params }) => `${code}${listed(params)}.`).join(" ");
}

function listed(params: Params): string {
  const named = Object.entries(params).map(([name, param]) => `${name}: ${JSON.stringify(param)}`);
  return named.length === 0 ? "" : ` (${named.join(", ")})`;
}

/**
 * The findings that a reader returns: a hundred at most, errors first where there are more, and one that counts those left out.
 *
 * @param uncounted - how many were left out before.
 */
export function firstFindings(problems: readonly Problem[], uncounted = 0): readonly Problem[] {
  const more = problems.length + uncounted - limits.findings;
  if (more <= 0) return problems;
  const isError = ({ severity }: Problem) => severity === "error";
  const kept = [...problems.filter(isError), ...problems.filter((problem) => !isError(problem))].slice(
    0,
    limits.findings,
  );
  return [...kept, moreFindings(more, kept[0] ?? problems[0])];
}

function moreFindings(count: number, first: Problem | undefined): Problem {
  return {
    code: "more-findings",
    params: { count },
    severity: first?.severity ?? "warning",
    place: { ...(first?.place.file === undefined ? {} : { file: first.place.file }), pointer: "" },
    fixes: [{ code: "mend-more-findings", params: {} }],
  };
}

/** Joins keys to a JSON Pointer (RFC 6901). */
export function pointerTo(...keys: readonly (string | number)[]): string {
  return keys.map((key) => `/${String(key).replaceAll("~", "~0").replaceAll("/", "~1")}`).join("");
}
