import type { Character } from "../character/character.ts";
import type { Edit, EditResult, Edits, Verb } from "../character/edit.ts";
import type { Situation } from "../character/situation.ts";

/** What is known while an edit is done. */
export interface Doing extends Situation {
  /** Does another edit as part of this one, which is judged when all is done. */
  readonly attempt: (character: Character, edit: Edit) => EditResult;
  /** Does another edit and judges it by itself, as if it were the only one. */
  readonly judged: (edit: Edit) => EditResult;
}

/** What a verb does. Its shape is in the catalog's `edit-shapes`. */
export interface VerbModule<V extends Verb> {
  /** Does an edit whole, or refuses it. What would break a rule is judged after. */
  readonly apply: (edit: Edits[V], doing: Doing) => EditResult;
  /** The edit with the slot it is about, where it is about one, so that findings point there and fixes do it again. */
  readonly aboutSlot?: (
    edit: Edits[V],
    doing: Pick<Doing, "catalog" | "character">,
  ) => readonly [Edit, string] | undefined;
  /** Whether it takes off by itself what rules do not let it keep, so that no rule refuses it. */
  readonly yields?: true;
}
