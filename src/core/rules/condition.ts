import { getOwn } from "../base/record.ts";
import type { Catalog, Condition, Pattern } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import type { Evidence } from "../character/edit.ts";
import type { Worn } from "./worn.ts";

/** A character as whoever explains rules sees it. */
export interface Dressed {
  readonly catalog: Catalog;
  readonly character: Pick<Character, "body" | "loadout" | "facts">;
  readonly context: Context;
  readonly worn: readonly Worn[];
}

/** Whether a worn part is of the kind a pattern names. */
export function matches(pattern: Pattern, worn: Worn): boolean {
  switch (pattern.kind) {
    case "part":
      return worn.part.id === pattern.id;
    case "tag":
      return worn.part.tags.includes(pattern.id);
    case "slot":
      return worn.slot === pattern.id || worn.part.occupies.includes(pattern.id);
  }
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
    case "signal":
    case "not":
      return [];
  }
}

/** The facts a condition looks at: what is worn of it, the body, answers, signals. */
export function evidenceIn(condition: Condition, dressed: Dressed): readonly Evidence[] {
  switch (condition.kind) {
    case "part":
    case "tag":
    case "slot":
    case "outfit":
      return partsIn(condition, dressed).map(wornEvidence);
    case "body":
      return [{ kind: "body", id: dressed.character.body }];
    case "fact":
      return [{ kind: "fact", id: condition.id, value: getOwn(dressed.character.facts, condition.id) }];
    case "signal":
      return [{ kind: "signal", id: condition.id, value: getOwn(dressed.context.signals ?? {}, condition.id) }];
    case "any":
    case "all":
      return condition.of.flatMap((each) => evidenceIn(each, dressed));
    case "not":
      return evidenceIn(condition.of, dressed);
  }
}

/** That a part is worn. */
export function wornEvidence({ slot, part, issued }: Worn): Evidence {
  return { kind: "worn", part: part.id, slot, issued };
}
