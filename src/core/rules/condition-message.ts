import { type Message, message } from "../base/message.ts";
import type { Condition } from "../catalog/model/catalog.ts";
import { judgedKind } from "./judged-kinds.ts";

/** A condition as a message: `something in slot "vest"`. */
export function conditionMessage(condition: Condition): Message {
  switch (condition.kind) {
    case "any":
      return message("any-of", { of: condition.of.map(conditionMessage) });
    case "all":
      return message("all-of", { of: condition.of.map(conditionMessage) });
    case "not":
      return message("not-so", { condition: conditionMessage(condition.of) });
    default:
      return judgedKind(condition).message(condition);
  }
}
