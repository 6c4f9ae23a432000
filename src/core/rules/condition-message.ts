import { type Message, message } from "../base/message.ts";
import type { Condition } from "../catalog/model/catalog.ts";
import { judgedKind } from "./judged-kinds.ts";

/** A condition as a message: `something in slot "vest"`. */
export function conditionMessage(condition: Condition): Message {
  return said(condition, true, "alone");
}

/** @param outcome - whether it is to hold, or not to: a negation is said of each part, and so never of the wrong one. */
function said(condition: Condition, outcome: boolean, place: "alone" | "within"): Message {
  switch (condition.kind) {
    case "any":
    case "all": {
      const [only, ...others] = condition.of;
      if (only !== undefined && others.length === 0) return said(only, outcome, place);
      const of = condition.of.map((each) => said(each, outcome, "within"));
      const isAny = (condition.kind === "any") === outcome;
      if (place === "alone") return message(isAny ? "any-of" : "all-of", { of });
      return message(isAny ? "either-of" : "both-of", { of });
    }
    case "not":
      return said(condition.of, !outcome, place);
    default: {
      const kind = judgedKind(condition);
      return outcome ? kind.message(condition) : kind.absent(condition);
    }
  }
}
