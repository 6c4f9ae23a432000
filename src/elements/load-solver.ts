import type { Fitting } from "../core/create/fitting.ts";
import type { Solver } from "../core/loadout/solver.ts";

let loading: Promise<Solver> | undefined;

/** The search, which is loaded when it is first needed. What could not be loaded is tried again the next time. */
function loadSolver(): Promise<Solver> {
  loading ??= import("../core/solver/solver.ts").then(
    ({ solver }) => solver,
    (error: unknown) => {
      loading = undefined;
      throw error;
    },
  );
  return loading;
}

/** Milliseconds after which a screen shows that it is at work. */
const noticeable = 100;

/** Gives a fitting the search where something is wrong from the start, so that what has to be put on has a fix as well. */
export async function giveSolverToMend(fitting: Fitting | undefined): Promise<void> {
  if (fitting === undefined || fitting.problems.length === 0) return;
  await giveSolver(fitting, () => {});
}

/**
 * Gives a fitting the search, unless it has one.
 *
 * @param show - is called when that takes noticeably long, and again when it is over.
 */
export async function giveSolver(fitting: Fitting, show: (isWaiting: boolean) => void): Promise<void> {
  if (fitting.context.solver !== undefined) return;
  const timer = setTimeout(() => show(true), noticeable);
  try {
    const solver = await loadSolver();
    if (fitting.context.solver === undefined) fitting.update({ solver });
  } finally {
    clearTimeout(timer);
    show(false);
  }
}
