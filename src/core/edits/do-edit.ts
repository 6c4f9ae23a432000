import type { Catalog } from "../catalog/model/catalog.ts";
import { verbIn } from "../catalog/model/edit-shapes.ts";
import { overfull } from "../character/bag/overfull.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import type { Edit, EditResult, LoadoutProblem, Verb } from "../character/edit.ts";
import { aboutWhole, refuse } from "../character/refuse.ts";
import { wouldBreak } from "../rules/newly-broken.ts";
import { wrongForm } from "./read-edit.ts";
import type { VerbModule } from "./verb.ts";

/** What some verbs do: all there are, or those that are needed. */
export type Verbs = { readonly [V in Verb]?: VerbModule<V> };

/** A character, and what is known while it is edited. */
interface Before {
  readonly catalog: Catalog;
  readonly character: Character;
  readonly context: Context;
}

/**
 * Does one edit, by one of some verbs, and refuses what would break a rule that held before.
 *
 * @throws TypeError for an edit of another verb.
 */
export function judgedEdit(verbs: Verbs, edit: Edit, before: Before): EditResult {
  return doEdit(verbs, edit, before, (after) => broken(verbs, edit, before, after));
}

/** Does one edit, by one of some verbs, without judging what it comes to. */
export function unjudgedEdit(verbs: Verbs, edit: Edit, before: Before): EditResult {
  return doEdit(verbs, edit, before, () => []);
}

/** @param judge - finds what is wrong with what the edit comes to. */
function doEdit(
  verbs: Verbs,
  edit: Edit,
  { catalog, character, context }: Before,
  judge: (after: Character) => readonly LoadoutProblem[],
): EditResult {
  const wrong = wrongForm(edit);
  if (wrong !== undefined) return refuse(character, aboutWhole(wrong));
  const result = move(verbs, edit, { catalog, character, context });
  if (!result.ok || result.character === character) return result;
  const problems = [...judge(result.character), ...overfull(character, result.character, context)];
  return problems.length === 0 ? result : refuse(character, ...problems);
}

function move(verbs: Verbs, edit: Edit, before: Before): EditResult {
  const { catalog, character, context } = before;
  return verbOf(verbs, edit).apply(edit, {
    catalog,
    character,
    context,
    attempt: (current, another) => move(verbs, another, { catalog, character: current, context }),
    judged: (another) => judgedEdit(verbs, another, before),
  });
}

function broken(verbs: Verbs, edit: Edit, { catalog, character, context }: Before, after: Character) {
  const { yields, aboutSlot } = verbOf(verbs, edit);
  if (yields) return [];
  if (character.loadout === after.loadout && character.facts === after.facts) return [];
  const [again, slot] = aboutSlot?.(edit, { catalog, character }) ?? [edit];
  return wouldBreak(catalog, character, after, context, again, slot);
}

function verbOf(verbs: Verbs, edit: Edit): VerbModule<Verb> {
  const verb = verbIn(edit);
  const found = verbs[verb] as VerbModule<Verb> | undefined;
  if (found === undefined) throw new TypeError(`Nothing is known of "${verb}" here`);
  return found;
}
