import { type Message, message } from "../base/message.ts";
import type { Bound, Condition, Rule } from "../catalog/model/catalog.ts";

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

/** A rule as messages, whoever it concerns. */
export function ruleMessages(rule: Rule): readonly Message[] {
  switch (rule.kind) {
    case "never":
      return [message("rule-never", { patterns: rule.patterns.map(conditionMessage) })];
    case "needs":
      return [message("rule-needs", { when: conditionMessage(rule.when), needs: conditionMessage(rule.needs) })];
    case "total": {
      const { stat, atMost, atLeast } = rule;
      return [
        ...(atMost === undefined ? [] : [message("rule-total-most", { stat, bound: boundParam(atMost) })]),
        ...(atLeast === undefined ? [] : [message("rule-total-least", { stat, bound: boundParam(atLeast) })]),
      ];
    }
    case "count": {
      const { atMost, atLeast } = rule;
      const pattern = conditionMessage(rule.of);
      return [
        ...(atMost === undefined ? [] : [message("rule-count-most", { pattern, bound: atMost })]),
        ...(atLeast === undefined ? [] : [message("rule-count-least", { pattern, bound: atLeast })]),
      ];
    }
  }
}

function boundParam(bound: Bound): number | Message {
  return typeof bound === "number" ? bound : message("a-stat", { stat: bound.stat });
}
