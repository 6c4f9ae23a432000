import { describeProblem } from "./format.ts";
import type { PartialMessages } from "./message.ts";
import { MantleError, type Problem } from "./problem.ts";

/**
 * The error for a catalog that cannot be used: its first errors in words, and every problem as data.
 *
 * @param where - where it was read from.
 * @param messages - the sentences for the errors; codes stand where one is left out.
 */
export function badCatalog(where: string, problems: readonly Problem[], messages: PartialMessages): MantleError {
  const errors = problems.filter(({ severity }) => severity === "error");
  const left = errors.length > 5 ? [`… and ${errors.length - 5} more; mantle check lists them all.`] : [];
  const lines = [
    `The catalog ${where} cannot be used.`,
    ...errors.slice(0, 5).map((problem) => describeProblem(problem, messages)),
    ...left,
  ];
  return new MantleError("bad-catalog", lines.join("\n"), problems);
}
