import { getOwn } from "../base/record.ts";
import type { Condition } from "../catalog/model/catalog.ts";
import { type Dressed, matches } from "./condition.ts";
import { hasValue, isOn } from "./signals.ts";

/** Whether a condition holds of a character as it is dressed, under the signals of the context. */
export function holds(condition: Condition, dressed: Dressed): boolean {
  const { catalog, character, context, worn } = dressed;
  switch (condition.kind) {
    case "part":
    case "tag":
    case "slot":
      return worn.some((each) => matches(condition, each));
    case "outfit": {
      const parts = catalog.outfits.get(condition.id)?.parts ?? [];
      return parts.length > 0 && parts.every((id) => worn.some(({ part }) => part.id === id));
    }
    case "body":
      return character.body === condition.id;
    case "fact":
      return getOwn(character.facts, condition.id) === condition.value;
    case "signal": {
      const signal = getOwn(context.signals ?? {}, condition.id);
      return condition.value === undefined ? isOn(signal) : hasValue(signal, condition.value);
    }
    case "any":
      return condition.of.some((each) => holds(each, dressed));
    case "all":
      return condition.of.every((each) => holds(each, dressed));
    case "not":
      return !holds(condition.of, dressed);
  }
}
