import type { Catalog, Condition, Pattern } from "../catalog/catalog.ts";
import { valueAt } from "../record.ts";
import type { Character } from "./character.ts";
import { type Worn, wornParts } from "./worn.ts";

/** A character as rules see it. */
export interface Dressed {
  readonly catalog: Catalog;
  readonly character: Pick<Character, "body" | "loadout" | "facts">;
  readonly worn: readonly Worn[];
}

/** A character with what it wears, worked out once for all rules. */
export function dressedAs(catalog: Catalog, character: Dressed["character"]): Dressed {
  return { catalog, character, worn: wornParts(catalog, character) };
}

/** Whether a worn part is of the kind a pattern names. */
export function matches(pattern: Pattern, worn: Worn): boolean {
  switch (pattern.kind) {
    case "part":
      return worn.part.id === pattern.id;
    case "tag":
      return worn.part.tags.has(pattern.id);
    case "slot":
      return worn.slot === pattern.id || worn.part.occupies.includes(pattern.id);
  }
}

/** Whether a condition holds of a character. */
export function holds(condition: Condition, dressed: Dressed): boolean {
  switch (condition.kind) {
    case "part":
    case "tag":
    case "slot":
      return dressed.worn.some((worn) => matches(condition, worn));
    case "body":
      return dressed.character.body === condition.id;
    case "outfit":
      return isWornWhole(condition.id, dressed);
    case "fact":
      return valueAt(dressed.character.facts, condition.id) === condition.value;
    case "any":
      return condition.of.some((each) => holds(each, dressed));
    case "all":
      return condition.of.every((each) => holds(each, dressed));
    case "not":
      return !holds(condition.of, dressed);
  }
}

function isWornWhole(outfit: string, { catalog, worn }: Dressed): boolean {
  const parts = catalog.outfits.get(outfit)?.parts ?? [];
  return parts.length > 0 && parts.every((id) => worn.some(({ part }) => part.id === id));
}

/** The worn parts that a condition speaks of, other than to forbid them. */
export function partsIn(condition: Condition, dressed: Dressed): readonly Worn[] {
  switch (condition.kind) {
    case "part":
    case "tag":
    case "slot":
      return dressed.worn.filter((worn) => matches(condition, worn));
    case "outfit": {
      const parts = dressed.catalog.outfits.get(condition.id)?.parts ?? [];
      return dressed.worn.filter(({ part }) => parts.includes(part.id));
    }
    case "any":
    case "all":
      return [...new Set(condition.of.flatMap((each) => partsIn(each, dressed)))];
    case "body":
    case "fact":
    case "not":
      return [];
  }
}

/** A condition in words: `something in slot "vest"`. */
export function sayCondition(condition: Condition): string {
  switch (condition.kind) {
    case "part":
      return `"${condition.id}"`;
    case "tag":
      return `something "${condition.id}"`;
    case "slot":
      return `something in slot "${condition.id}"`;
    case "body":
      return `body "${condition.id}"`;
    case "outfit":
      return `the whole outfit "${condition.id}"`;
    case "fact":
      return `${condition.id} "${condition.value}"`;
    case "any":
      return condition.of.map(sayCondition).join(" or ");
    case "all":
      return condition.of.map(sayCondition).join(" and ");
    case "not":
      return `not ${sayCondition(condition.of)}`;
  }
}
