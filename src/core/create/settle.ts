import { getOwn } from "../base/record.ts";
import { changesBetween } from "../character/changes.ts";
import type { Edit, EditResult } from "../character/edit.ts";
import type { Situation } from "../character/situation.ts";
import { applyEdit, tryEdit } from "../edits/apply-edit.ts";
import type { Solver } from "../loadout/solver.ts";

/**
 * Does an edit and, where it would break a rule, the fewest further edits that mend it; what the edit itself chose stays.
 *
 * @param recent - slots in the order in which the player chose what is in them: the last are kept where answers tie.
 * @returns as `applyEdit` does, with what was done besides as `settled`; refused where nothing mends it.
 */
export function settle(solver: Solver, situation: Situation, edit: Edit, recent: readonly string[]): EditResult {
  const { catalog, character, context } = situation;
  const strict = applyEdit(catalog, character, edit, context);
  if (strict.ok) return strict;
  const loose = tryEdit(catalog, character, edit, context);
  if (!loose.ok || loose.character === character) return strict;
  const chosen = changesBetween(character, loose.character).slots.filter(
    (slot) => edit.remove !== undefined || getOwn(loose.character.loadout, slot) !== undefined,
  );
  const { edits } = solver.repair({ ...situation, character: loose.character }, { keep: chosen, recent });
  if (edits === undefined || edits.length === 0) return strict;
  const settled = applyEdit(catalog, character, { together: [edit, ...edits] }, context);
  return settled.ok ? { ...settled, settled: { edits, because: strict.problems } } : strict;
}
