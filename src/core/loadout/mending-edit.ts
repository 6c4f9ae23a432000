import type { Edit, EditResult } from "../character/edit.ts";
import type { Situation } from "../character/situation.ts";
import { judgedEdit, unjudgedEdit } from "../edits/do-edit.ts";
import { removeVerb } from "../edits/verbs/remove.ts";
import { dropVerb } from "../edits/verbs/stack-edits.ts";
import { togetherVerb } from "../edits/verbs/together.ts";
import { wearVerb } from "../edits/verbs/wear.ts";

/** The verbs of the edits that mend, so that whoever only mends does not load the others. */
const mendingVerbs = { wear: wearVerb, remove: removeVerb, drop: dropVerb, together: togetherVerb };

/** Does an edit of those that mend. */
export function mendingEdit(situation: Situation, edit: Edit): EditResult {
  return judgedEdit(mendingVerbs, edit, situation);
}

/** The same without judging what it comes to. */
export function unjudgedMendingEdit(situation: Situation, edit: Edit): EditResult {
  return unjudgedEdit(mendingVerbs, edit, situation);
}
