import pc from "picocolors";
import { describeProblem, type Problem } from "../core/problem.ts";

/** What a command has to say: text for people, or the same as data with `--json`. */
export interface Answer {
  readonly text: string;
  readonly data: unknown;
  /** 0 fine, 1 problems found. */
  readonly exitCode?: 0 | 1;
}

/** Prints an answer on standard output. */
export function printAnswer(answer: Answer, options: { readonly json?: boolean }): void {
  process.stdout.write(options.json ? `${JSON.stringify(answer.data, null, 2)}\n` : `${answer.text}\n`);
  process.exitCode = answer.exitCode ?? 0;
}

/** Problems as lines for people: what, where and what to do, errors first. */
export function problemLines(problems: readonly Problem<unknown>[]): readonly string[] {
  const order = (problem: Problem<unknown>) => (problem.severity === "error" ? 0 : 1);
  return problems
    .toSorted((one, other) => order(one) - order(other))
    .map((problem) => {
      const mark = problem.severity === "error" ? pc.red("error  ") : pc.yellow("warning");
      return `${mark}  ${describeProblem(problem)}`;
    });
}

/** `1 part`, `2 parts`. */
export function counted(count: number, noun: string, plural = `${noun}s`): string {
  return `${count.toLocaleString("en")} ${count === 1 ? noun : plural}`;
}
