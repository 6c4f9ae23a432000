import { limits } from "../../base/limits.ts";
import { getOwn } from "../../base/record.ts";
import type { Catalog } from "../../catalog/model/catalog.ts";
import { countInBag, stacked, stackSize } from "../../character/bag/bag.ts";
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

/** The verb `merge`. */
export const mergeVerb: VerbModule<"merge"> = {
  apply: (edit, { catalog, character }) => mergeStacks(catalog, character, edit),
};
