import { type Message, message } from "../base/message.ts";
import { visitCondition } from "../catalog/conditions/visit-condition.ts";
import type { Condition } from "../catalog/model/catalog.ts";
import { judgedKind } from "./judged-kinds.ts";

/** A condition as a message: `something in slot "vest"`. */
export function conditionMessage(condition: Condition): Message {
  return visitCondition<Sentence>(condition, {
    plain(each) {
      const kind = judgedKind(each);
      return (outcome) => (outcome ? kind.message(each) : kind.absent(each));
    },
    any: (each) => listed(each, true),
    all: (each) => listed(each, false),
    not: (inner) => (outcome, place) => inner(!outcome, place),
  })(true, "alone");
}

/**
 * A condition as a message.
 *
 * @param outcome - whether it is to hold, or not to: a negation is in the message of each part, and so never in that of the wrong one.
 */
type Sentence = (outcome: boolean, place: "alone" | "within") => Message;

function listed(each: readonly Sentence[], isAny: boolean): Sentence {
  const [only, ...others] = each;
  if (only !== undefined && others.length === 0) return only;
  return (outcome, place) => {
    const of = each.map((sentence) => sentence(outcome, "within"));
    const isOne = isAny === outcome;
    if (place === "alone") return message(isOne ? "any-of" : "all-of", { of });
    return message(isOne ? "either-of" : "both-of", { of });
  };
}
