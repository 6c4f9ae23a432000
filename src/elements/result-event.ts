import type { Edit, EditResult } from "../core/character/edit.ts";
import type { StepsResult } from "../core/create/progress.ts";

/** The player did something on a screen, or was refused it: a game plays its sounds then. */
export class ResultEvent extends Event {
  /** What came of it. */
  readonly result: EditResult | StepsResult;
  /** What was done; `undefined` for an answer of a step and for a roll. */
  readonly edit: Edit | undefined;

  constructor(result: EditResult | StepsResult, edit?: Edit) {
    super("mantle-result", { bubbles: true, composed: true });
    this.result = result;
    this.edit = edit;
  }
}

/** A screen on which things are done. */
export interface ResultEvents {
  readonly "mantle-result": ResultEvent;
}
