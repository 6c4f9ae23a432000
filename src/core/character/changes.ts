import type { Character } from "./character.ts";

/** What differs between two states of a character, by id. */
export interface Changes {
  readonly body: boolean;
  readonly name: boolean;
  /** Slots in which something else is chosen. */
  readonly slots: readonly string[];
  /** Channels that are set to something else. */
  readonly channels: readonly string[];
  /** Parts of which the bag holds another number, or in other stacks. */
  readonly bag: readonly string[];
  readonly facts: readonly string[];
  /** Slots whose gear an outfit began or ceased to conceal. */
  readonly concealed: readonly string[];
}

/**
 * Finds exactly what differs between two characters. Records that are the same object are not looked into.
 *
 * @example
 * changesBetween(wren, hatted).slots // → ["hat"]
 */
export function changesBetween(before: Character, after: Character): Changes {
  return {
    body: before.body !== after.body,
    name: before.name !== after.name,
    slots: changedKeys(before.loadout, after.loadout),
    channels: changedKeys(before.colors, after.colors),
    bag: changedKeys(before.bag, after.bag),
    facts: changedKeys(before.facts, after.facts),
    concealed: changedKeys(before.concealed?.gear ?? noGear, after.concealed?.gear ?? noGear),
  };
}

const none: readonly string[] = [];
const noGear = {};

/** The keys under which two records differ; lists of the same are the same. */
export function changedKeys(
  before: Readonly<Record<string, unknown>>,
  after: Readonly<Record<string, unknown>>,
): readonly string[] {
  if (before === after) return none;
  return [...new Set([...Object.keys(before), ...Object.keys(after)])].filter(
    (key) => !isAlike(before[key], after[key]),
  );
}

/** Whether two values are the same, or lists of the same. */
function isAlike(one: unknown, other: unknown): boolean {
  if (one === other) return true;
  if (!Array.isArray(one) || !Array.isArray(other) || one.length !== other.length) return false;
  return one.every((item, at) => item === other[at]);
}
