import type { Message } from "../../base/message.ts";
import { type Problem, pointerTo } from "../../base/problem.ts";
import type { FormIssues } from "../../base/schema/check-form.ts";
import { adviceOn } from "./findings.ts";

/** What is wrong with the form of a file, and how much more than was looked for. */
export interface FormProblems {
  readonly problems: readonly Problem[];
  readonly more: number;
}

/** What is wrong with the form of a file, as problems with their places. */
export function formProblems({ mismatches, beyond, more }: FormIssues, file: string): FormProblems {
  const wrong = mismatches.map(
    ({ path, ...mismatch }): Problem => ({
      ...mismatch,
      severity: "error",
      place: { file, pointer: pointerTo(...path) },
    }),
  );
  const tooMuch = beyond.map(({ path, reason }) => beyondProblem(file, pointerTo(...path), reason));
  return { problems: [...wrong, ...tooMuch], more };
}

/** The problem of what is too large or too deep to be looked into, or is no JSON. */
export function beyondProblem(file: string, pointer: string, reason: Message): Problem {
  const fixes = adviceOn("beyond-limits");
  return { code: "beyond-limits", params: { reason }, severity: "error", place: { file, pointer }, fixes };
}
