import { type Message, message } from "../base/message.ts";
import type { Condition } from "../catalog/model/catalog.ts";

/** A condition as a message: `something in slot "vest"`. */
export function conditionMessage(condition: Condition): Message {
  switch (condition.kind) {
    case "part":
      return message("a-part", { part: condition.id });
    case "tag":
      return message("a-tag", { tag: condition.id });
    case "slot":
      return message("a-slot", { slot: condition.id });
    case "body":
      return message("a-body", { body: condition.id });
    case "outfit":
      return message("an-outfit", { outfit: condition.id });
    case "fact":
      return message("a-fact", { id: condition.id, value: condition.value });
    case "signal":
      return condition.value === undefined
        ? message("a-signal", { id: condition.id })
        : message("a-signal-of", { id: condition.id, value: condition.value });
    case "any":
      return message("any-of", { of: condition.of.map(conditionMessage) });
    case "all":
      return message("all-of", { of: condition.of.map(conditionMessage) });
    case "not":
      return message("not-so", { condition: conditionMessage(condition.of) });
  }
}
