import type { Fitting } from "../core/create/fitting.ts";

/** Milliseconds after which a screen shows that it is at work. */
const noticeable = 100;

/** Gives a fitting the search where something is wrong from the start, so that what has to be put on has a fix as well. */
export async function giveSolverToMend(fitting: Fitting | undefined): Promise<void> {
  if (fitting !== undefined && fitting.problems.length > 0) await giveSolver(fitting, {});
}

/**
 * Gives a fitting the search, unless it has one. It is loaded when it is first needed.
 *
 * @param screen - has `waiting` set while that takes noticeably long.
 * @returns whether the fitting has it now; where it could not be loaded, the reason is reported to the page.
 */
export async function giveSolver(fitting: Fitting, screen: { waiting?: boolean }): Promise<boolean> {
  if (fitting.context.solver !== undefined) return true;
  const timer = setTimeout(() => {
    screen.waiting = true;
  }, noticeable);
  try {
    const { solver } = await import("../core/solver/solver.ts");
    fitting.update({ solver });
    return true;
  } catch (error) {
    reportError(error);
    return false;
  } finally {
    clearTimeout(timer);
    screen.waiting = false;
  }
}
