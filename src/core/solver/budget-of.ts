import type { SearchLimits } from "../loadout/solver.ts";
import { type Budget, stepsOfLook } from "./search/budget.ts";

export type { Budget } from "./search/budget.ts";

/** The budget of a search. */
export function budgetOf({
  budget = 500_000,
  milliseconds,
  clock = Date.now,
  onProgress,
  signal,
}: SearchLimits): Budget {
  const end = milliseconds === undefined ? Number.POSITIVE_INFINITY : clock() + milliseconds;
  if (milliseconds === undefined && signal === undefined && onProgress === undefined) return { steps: budget };
  let looks = 0;
  return {
    steps: budget,
    isOver() {
      looks += 1;
      onProgress?.({ done: Math.min(looks * stepsOfLook, budget), total: budget });
      return signal?.aborted === true || (milliseconds !== undefined && clock() >= end);
    },
  };
}
