import type { Fix } from "../base/problem.ts";
import { visitCondition } from "../catalog/conditions/visit-condition.ts";
import type { Condition } from "../catalog/model/catalog.ts";
import { verbIn } from "../catalog/model/edit-shapes.ts";
import { overfull } from "../character/bag/overfull.ts";
import type { Character } from "../character/character.ts";
import type { Edit, EditResult, LoadoutProblem, Verb } from "../character/edit.ts";
import { withPacks } from "../character/needed-packs.ts";
import { aboutWhole, fixWith, refuse } from "../character/refuse.ts";
import type { Situation } from "../character/situation.ts";
import { type Helping, wouldBreak } from "../rules/newly-broken.ts";
import { wrongForm } from "./read-edit.ts";
import type { VerbModule } from "./verb.ts";

/** What some verbs do: all there are, or those that are needed. */
export type Verbs = { readonly [V in Verb]?: VerbModule<V> };

/**
 * Does one edit, by one of some verbs, and refuses what would break a rule that held before.
 *
 * @throws TypeError for an edit of another verb.
 */
export function judgedEdit(verbs: Verbs, edit: Edit, before: Situation): EditResult {
  return doEdit(verbs, edit, before, (after) => broken(verbs, edit, before, after));
}

/** Does one edit, by one of some verbs, without judging what it comes to. */
export function unjudgedEdit(verbs: Verbs, edit: Edit, before: Situation): EditResult {
  return doEdit(verbs, edit, before, () => []);
}

/** @param judge - finds what is wrong with what the edit comes to. */
function doEdit(
  verbs: Verbs,
  edit: Edit,
  { catalog, character, context }: Situation,
  judge: (after: Character) => readonly LoadoutProblem[],
): EditResult {
  const wrong = wrongForm(edit);
  if (wrong !== undefined) return refuse(character, aboutWhole(wrong));
  const result = move(verbs, edit, { catalog, character, context });
  if (!result.ok || result.character === character) return result;
  const problems = [...judge(result.character), ...overfull(character, result.character, context)];
  if (problems.length > 0) return refuse(character, ...problems);
  return { ...result, character: withPacks(catalog, result.character) };
}

function move(verbs: Verbs, edit: Edit, before: Situation): EditResult {
  const { catalog, character, context } = before;
  return verbOf(verbs, edit).apply(edit, {
    catalog,
    character,
    context,
    attempt: (current, another) => move(verbs, another, { catalog, character: current, context }),
    judged: (another) => judgedEdit(verbs, another, before),
  });
}

function broken(verbs: Verbs, edit: Edit, before: Situation, after: Character) {
  const { catalog, character, context } = before;
  const { yields, aboutSlot } = verbOf(verbs, edit);
  if (yields) return [];
  if (character.loadout === after.loadout && character.facts === after.facts) return [];
  const [again, slot] = aboutSlot?.(edit, { catalog, character }) ?? [edit];
  const help: Helping = (inTheWay, missing) => {
    const found = fewestFirst(verbs, inTheWay, again, before);
    if (found === undefined) return putOnFirst(verbs, missing, again, before);
    const edits = [...found.map((worn): Edit => ({ remove: worn.slot })), again];
    return [fixWith("take-off-first", { parts: [...new Set(found.map(({ part }) => part))] }, edits)];
  };
  return wouldBreak(catalog, character, after, context, slot, help);
}

/** Parts that are missing by name, where an edit is accepted once they are worn. */
function putOnFirst(verbs: Verbs, missing: Condition | undefined, edit: Edit, before: Situation): readonly Fix<Edit>[] {
  const parts =
    missing === undefined ? [] : named(missing).find((some) => isDone(verbs, [...some.map(wearing), edit], before));
  if (parts === undefined || parts.length === 0) return [];
  return [fixWith("put-on-first", { parts }, [...parts.map(wearing), edit])];
}

function wearing(part: string): Edit {
  return { wear: part };
}

/** Ways to make a condition hold, by the parts that it names. */
function named(condition: Condition): readonly (readonly string[])[] {
  return visitCondition<readonly (readonly string[])[]>(condition, {
    plain: ({ kind, id }) => (kind === "part" ? [[id]] : []),
    any: (each) => each.flat(),
    all: (each) => (each.some((ways) => ways.length === 0) ? [] : [each.flatMap(([parts = []]) => parts)]),
    not: () => [],
  });
}

/** A worn part that may be in an edit's way. */
interface InTheWay {
  readonly slot: string;
  readonly part: string;
}

/** So many parts in an edit's way are tried one by one and by twos; of more, all are taken off, and put back where that can be. */
const mostTried = 12;

/** The fewest parts that have to be taken off first for an edit to be accepted; nothing where taking them off does not do. */
function fewestFirst(
  verbs: Verbs,
  first: readonly InTheWay[],
  edit: Edit,
  before: Situation,
): readonly InTheWay[] | undefined {
  const helps = (some: readonly InTheWay[]) =>
    isDone(verbs, [...some.map(({ slot }): Edit => ({ remove: slot })), edit], before);
  if (first.length <= mostTried) {
    const ones = first.map((one) => [one]);
    const twos = first.flatMap((one, at) => first.slice(at + 1).map((other) => [one, other]));
    const found = [...ones, ...twos].find(helps);
    if (found !== undefined) return found;
  }
  if (first.length < 3 || !helps(first)) return undefined;
  let some = first;
  for (const one of first) {
    const fewer = some.filter((each) => each !== one);
    if (helps(fewer)) some = fewer;
  }
  return some;
}

/** Whether some edits are accepted, one after another. */
function isDone(verbs: Verbs, edits: readonly Edit[], { catalog, character, context }: Situation): boolean {
  let current = character;
  return edits.every((edit) => {
    const result = judgedEdit(verbs, edit, { catalog, character: current, context });
    current = result.character;
    return result.ok;
  });
}

function verbOf(verbs: Verbs, edit: Edit): VerbModule<Verb> {
  const verb = verbIn(edit);
  const found = verbs[verb] as VerbModule<Verb> | undefined;
  if (found === undefined) throw new TypeError(`Nothing is known of "${verb}" here`);
  return found;
}
