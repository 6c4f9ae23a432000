import { limits } from "./limits.ts";

/** How bad a problem is: an `error` must be mended before the data can be used, a `warning` should be looked at. */
export type Severity = "error" | "warning";

/** Where a problem was found. */
export interface Place {
  /** The file, relative to the catalog folder; absent for data that came from no file. */
  readonly file?: string;
  /** JSON Pointer (RFC 6901) to the value inside the document; `""` is the whole document. */
  readonly pointer: string;
}

/** One way to mend a problem. `edits`, where present, can be applied as they are. */
export interface Fix<Edit = never> {
  readonly say: string;
  readonly edits?: readonly Edit[];
}

/**
 * A finding: what is wrong, where, why, and how it can be mended.
 *
 * Problems are values. Functions that judge data return them; only broken calls and unreadable input throw.
 */
export interface Problem<Edit = never> {
  /** Stable, machine-readable name, for example `"unknown-part"`. */
  readonly code: string;
  readonly severity: Severity;
  readonly place: Place;
  /** One sentence that says what is wrong and why. */
  readonly because: string;
  readonly fixes: readonly Fix<Edit>[];
}

/** Thrown for broken calls and unreadable input, and for nothing else. */
export class MantleError extends Error {
  override readonly name = "MantleError";
  /** Stable, machine-readable name of what went wrong. */
  readonly code: string;
  /** The findings behind the error, when there are any. */
  readonly problems: readonly Problem<unknown>[];

  constructor(code: string, message: string, problems: readonly Problem<unknown>[] = []) {
    super(message);
    this.code = code;
    this.problems = problems;
  }
}

/**
 * Says a problem as text for people: what, where, and what to do.
 *
 * @example
 * describeProblem(problem)
 * // → 'catalog.json /slots/badge/default: Slot "badge" starts with "sea-boots", which goes in "boots". Choose a part of slot "badge".'
 */
export function describeProblem(problem: Problem<unknown>): string {
  const where = [problem.place.file, problem.place.pointer].filter(Boolean).join(" ");
  const what = [problem.because, ...problem.fixes.map((fix) => fix.say)].join(" ");
  // In one line, whatever data it quotes.
  return (where === "" ? what : `${where}: ${what}`).replace(/\s*[\r\n]\s*/g, " ");
}

/**
 * The findings that a reader returns: a hundred at most, errors first where there are more, and one that says how many are left out.
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
    severity: first?.severity ?? "warning",
    place: { ...(first?.place.file === undefined ? {} : { file: first.place.file }), pointer: "" },
    because: `There are ${count} more findings.`,
    fixes: [{ say: "Mend these first." }],
  };
}

/** Joins keys to a JSON Pointer (RFC 6901). */
export function pointerTo(...keys: readonly (string | number)[]): string {
  return keys.map((key) => `/${String(key).replaceAll("~", "~0").replaceAll("/", "~1")}`).join("");
}
