import { codesOf, MantleError } from "../base/problem.ts";
import type { LoadoutProblem } from "../character/edit.ts";

/** @throws MantleError `unfinished`, with what stands in the way of finishing, when anything does. */
export function refuseFinish(problems: readonly LoadoutProblem[]): void {
  if (problems.length === 0) return;
  throw new MantleError("unfinished", `The character cannot be finished. ${codesOf(problems)}`, problems);
}
