import { type Budget, stepsOfLook } from "./solve/search/budget.ts";

/** How long a search may take. What it has found by then is returned. */
export interface SearchLimits {
  /**
   * Search steps before it ends. The same steps always lead to the same answer; a million of them take some seconds.
   *
   * @defaultValue `500_000`
   */
  readonly budget?: number;
  /** Milliseconds before it ends, by `clock`. An answer then hangs on the machine. No limit when left out. */
  readonly milliseconds?: number;
  /** The time in milliseconds, from any start. @defaultValue `Date.now` */
  readonly clock?: () => number;
  /** Is called now and then with how many steps were taken, about. */
  readonly progress?: (steps: number) => void;
  /** Ends the search when it is aborted, as that of an `AbortController`; looked at now and then. */
  readonly signal?: { readonly aborted: boolean };
}

/** The budget of a search. */
export function budgetOf({ budget = 500_000, milliseconds, clock = Date.now, progress, signal }: SearchLimits): Budget {
  const end = milliseconds === undefined ? Number.POSITIVE_INFINITY : clock() + milliseconds;
  if (milliseconds === undefined && signal === undefined && progress === undefined) return { steps: budget };
  let looks = 0;
  return {
    steps: budget,
    isOver() {
      looks += 1;
      progress?.(looks * stepsOfLook);
      return signal?.aborted === true || (milliseconds !== undefined && clock() >= end);
    },
  };
}
