/** After so many steps it is asked again whether a search is to end for another reason. */
export const stepsOfLook = 256;

/**
 * How much searching may be done: it is counted down, and shared by whoever is handed it. A step is a decision or a conflict, or
 * following up so many literals that it takes as long; so the same steps always lead to the same answer.
 */
export interface Budget {
  steps: number;
  /** Whether the search is to end for another reason, such as the time; asked now and then. */
  readonly isOver?: (() => boolean) | undefined;
}
