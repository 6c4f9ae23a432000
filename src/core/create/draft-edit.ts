import type { Catalog } from "../catalog/model/catalog.ts";
import { overfull } from "../character/bag/overfull.ts";
import type { Edit, EditResult } from "../character/edit.ts";
import { refuse } from "../character/refuse.ts";
import { applyEdit, tryEdit } from "../edits/apply-edit.ts";
import { requireSolver } from "../loadout/require-solver.ts";
import type { SolvingContext } from "../loadout/solver.ts";
import type { History } from "./history.ts";
import { returnUnowned } from "./return-unowned.ts";
import { settle } from "./settle.ts";

/** How edits that would break a rule are taken: not at all, with the fewest further edits that mend it, or as they are. */
export type Drafts = "refuse" | "settle" | "allow";

/** Does an edit to the current state of a fitting; gear that was only tried on goes back to the wardrobe. */
export function draftEdit(
  catalog: Catalog,
  edit: Edit,
  history: History,
  drafts: Drafts,
  context: SolvingContext,
): EditResult {
  // What was only tried on leaves the bag again, so how full the bag is can be judged only after that.
  const { bagPlaces: _, solver, ...unlimited } = context;
  const { current, original } = history;
  const result = {
    refuse: () => applyEdit(catalog, current, edit, unlimited),
    settle: () =>
      settle(
        requireSolver(solver, "Settling"),
        { catalog, character: current, context: unlimited },
        edit,
        history.recentSlots,
      ),
    allow: () => tryEdit(catalog, current, edit, unlimited),
  }[drafts]();
  if (!result.ok || result.character === current) return result;
  const character = returnUnowned(catalog, result.character, original);
  const problems = overfull(current, character, context);
  return problems.length > 0 ? refuse(current, ...problems) : { ...result, character };
}
