import type { CompiledPart, CompiledRules, Part } from "../model/catalog.ts";

const nothing: readonly never[] = [];

/**
 * A part as rules see it.
 *
 * @param places - the numbers of its slots.
 */
export function compilePart(
  { id, tags, occupies, gives, requires }: Pick<Part, "id" | "tags" | "occupies" | "gives" | "requires">,
  places: readonly number[],
  rules: CompiledRules,
): CompiledPart {
  let marks = listed(nothing, rules.partMarks.get(id));
  for (const tag of tags) marks = listed(marks, rules.tagMarks.get(tag));
  let covers: readonly number[] = nothing;
  for (const slot of occupies) {
    const number = rules.slotNumbers.get(slot) ?? -1;
    covers = listed(covers, number);
    marks = listed(marks, markOf(number, rules));
  }
  let led: readonly number[] = nothing;
  for (const each of marks) for (const rule of rules.triggers[each] ?? nothing) led = listed(led, rule);
  const own = places.length === 1 ? markOf(places[0] ?? -1, rules) : undefined;
  for (const rule of rules.triggers[own ?? -1] ?? nothing) led = listed(led, rule);
  let weighed: CompiledPart["gives"] = nothing;
  for (const stat in gives) {
    const number = rules.statNumbers.get(stat);
    const gift = gives[stat];
    if (number === undefined || gift === undefined) continue;
    weighed = grown(weighed, { stat: number, add: gift.add, times: gift.times });
  }
  let required: CompiledPart["requires"] = nothing;
  for (const stat in requires) {
    required = grown(required, { stat: rules.statNumbers.get(stat) ?? -1, atLeast: requires[stat] ?? 0 });
  }
  return { marks, rules: led, places, covers, gives: weighed, requires: required };
}

/** The mark of a filled slot, where rules ask about it. */
function markOf(slot: number, { slotMarks }: CompiledRules): number | undefined {
  const mark = slotMarks[slot] ?? -1;
  return mark < 0 ? undefined : mark;
}

/** A list with a number, if there is one and it is not there yet. */
function listed(numbers: readonly number[], number: number | undefined): readonly number[] {
  return number === undefined || numbers.includes(number) ? numbers : grown(numbers, number);
}

/**
 * A list with one more item. Lists that grow by `push` keep room for sixteen, which for the many short lists of a large catalog
 * is most of its memory.
 */
function grown<T>(list: readonly T[], item: T): readonly T[] {
  return list.length === 0 ? [item] : [...list, item];
}
