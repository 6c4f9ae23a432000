import { limits } from "../../base/limits.ts";
import { getOwn, without } from "../../base/record.ts";
import type { Catalog } from "../../catalog/model/catalog.ts";
import { countInBag, stacked, stackSize, takeFromBag } from "../../character/bag/bag.ts";
import { bagFull } from "../../character/bag/overfull.ts";
import type { Character } from "../../character/character.ts";
import type { EditResult, Edits } from "../../character/edit.ts";
import { loadoutProblem, refuse } from "../../character/refuse.ts";
import type { VerbModule } from "../verb.ts";

/** Splits so many off the largest stack of a part, as a stack of their own. */
export function splitStack(character: Character, edit: Edits["split"]): EditResult {
  const { split: part, count: take } = edit;
  const stacks = getOwn(character.bag, part) ?? [];
  const largest = Math.max(0, ...stacks);
  const about = { subject: { kind: "part", id: part }, at: ["bag", part] } as const;
  const carried = { kind: "carried", part, count: countInBag(character.bag, part) } as const;
  if (stacks.length === 0)
    return refuse(character, loadoutProblem("not-carried", { ...about, params: { part }, chain: [carried] }));
  if (!Number.isInteger(take) || take < 1 || take >= largest) {
    const params = { part, count: largest, take };
    return refuse(character, loadoutProblem("cannot-split", { ...about, params, chain: [carried] }));
  }
  const at = stacks.indexOf(largest);
  const left = stacks.flatMap((count, number) => (number === at ? [count - take, take] : [count]));
  return { ok: true, character: { ...character, bag: { ...character.bag, [part]: left } }, displaced: [] };
}

/** Leaves a part behind, all of it or so many, from its smallest stacks. Nothing else takes anything from a player. */
export function dropStacks(character: Character, edit: Edits["drop"]): EditResult {
  const { drop: part } = edit;
  const carried = countInBag(character.bag, part);
  const { count = carried } = edit;
  const about = { subject: { kind: "part", id: part }, at: ["bag", part] } as const;
  const chain = [{ kind: "carried", part, count: carried }] as const;
  if (carried === 0) return refuse(character, loadoutProblem("not-carried", { ...about, params: { part }, chain }));
  if (!Number.isInteger(count) || count < 1 || count > carried) {
    const params = { part, count: carried, take: count };
    return refuse(character, loadoutProblem("cannot-drop", { ...about, params, chain }));
  }
  let { bag } = character;
  if (count === carried) bag = without(bag, part);
  else for (let left = count; left > 0; left -= 1) bag = takeFromBag(bag, part);
  return { ok: true, character: { ...character, bag }, displaced: [] };
}

/** Pours the stacks of a part together, into as few as can be. */
export function mergeStacks(catalog: Catalog, character: Character, edit: Edits["merge"]): EditResult {
  const part = edit.merge;
  const count = countInBag(character.bag, part);
  if (count === 0) {
    const about = { subject: { kind: "part", id: part }, at: ["bag", part], params: { part } } as const;
    return refuse(character, loadoutProblem("not-carried", { ...about, chain: [{ kind: "carried", part, count }] }));
  }
  const size = stackSize(catalog, part);
  if (count > size * limits.stacks) return refuse(character, bagFull(part, limits.stacks));
  const merged = stacked(count, size);
  return { ok: true, character: { ...character, bag: { ...character.bag, [part]: merged } }, displaced: [] };
}

/** The verb `split`. */
export const splitVerb: VerbModule<"split"> = {
  apply: (edit, { character }) => splitStack(character, edit),
};

/** The verb `drop`. */
export const dropVerb: VerbModule<"drop"> = {
  apply: (edit, { character }) => dropStacks(character, edit),
};

/** The verb `merge`. */
export const mergeVerb: VerbModule<"merge"> = {
  apply: (edit, { catalog, character }) => mergeStacks(catalog, character, edit),
};
