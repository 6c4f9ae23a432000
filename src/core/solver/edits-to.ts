import { getOwn } from "../base/record.ts";
import type { Catalog } from "../catalog/model/catalog.ts";
import { accessTo } from "../character/bag/access.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import type { Edit } from "../character/edit.ts";
import type { Situation } from "../character/situation.ts";
import { mendingEdit, unjudgedMendingEdit } from "../loadout/mending-edit.ts";

/**
 * Edits that lead to a loadout, in an order in which each is accepted; what only works as one is done together. Parts that are
 * not owned are left behind.
 */
export function editsTo(situation: Situation, target: Character["loadout"]): readonly Edit[] {
  const { catalog, character, context } = situation;
  const edits: Edit[] = [];
  let current = character;
  const pending = () => [...changesTo(catalog, current, target), ...strangers(catalog, current, context)];
  for (let left = pending(); left.length > 0; left = pending()) {
    const next = left.find((edit) => {
      const result = mendingEdit({ ...situation, character: current }, edit);
      // An edit that sends away what is to stay would only have to be undone.
      const isUndone = result.ok && result.displaced.some(({ slot, part }) => getOwn(target, slot) === part);
      if (!result.ok || isUndone || result.character === current) return false;
      current = result.character;
      return true;
    });
    if (next === undefined) {
      const rest = atOnce({ ...situation, character: current }, target);
      const isDone = rest.every((edit) => mendingEdit({ ...situation, character: current }, edit).ok);
      // What was done one by one may have left too little room for the rest.
      return isDone ? [...edits, ...rest] : atOnce(situation, target);
    }
    edits.push(next);
  }
  return edits;
}

/** All that is left to do as one edit: what is taken off, what is put on, and what is left behind then. */
function atOnce(situation: Situation, target: Character["loadout"]): readonly Edit[] {
  const { catalog, character, context } = situation;
  const changes = changesTo(catalog, character, target);
  const together: readonly Edit[] = [
    ...changes.filter(({ remove }) => remove !== undefined),
    // What is wanted elsewhere is put there from the bag.
    ...changes.flatMap((edit): readonly Edit[] => {
      if (edit.wear === undefined || edit.in === undefined) return [];
      const old = getOwn(character.loadout, edit.in);
      return old !== undefined && changes.some(({ wear }) => wear === old) ? [{ remove: edit.in }] : [];
    }),
    ...changes.filter(({ remove }) => remove === undefined),
  ];
  const result = unjudgedMendingEdit(situation, { together });
  const left = strangers(catalog, result.character, context);
  return together.length + left.length === 0 ? [] : [{ together: [...together, ...left] }];
}

function changesTo(catalog: Catalog, character: Character, target: Character["loadout"]): readonly Edit[] {
  return [...catalog.slots.keys()].flatMap((slot): readonly Edit[] => {
    const wanted = getOwn(target, slot);
    if (getOwn(character.loadout, slot) === wanted) return [];
    return [wanted === undefined ? { remove: slot } : { wear: wanted, in: slot }];
  });
}

/** Edits that leave behind what is carried and not owned. */
function strangers(catalog: Catalog, { bag }: Character, { holdings }: Context): readonly Edit[] {
  if (holdings === undefined) return [];
  return Object.keys(bag).flatMap((id): readonly Edit[] => {
    const part = catalog.parts.get(id);
    return part === undefined || accessTo(part, holdings) === "owned" ? [] : [{ drop: id }];
  });
}
