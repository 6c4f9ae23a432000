import { type Message, message } from "../base/message.ts";
import type { Catalog, Rule } from "../catalog/model/catalog.ts";
import type { Evidence } from "../character/edit.ts";
import { ruleMessages } from "../rules/spoken-kinds.ts";

/** The rule that a link of a proof is about. */
export function ruleOf({ rules }: Catalog, fact: Evidence): Rule | undefined {
  return fact.kind === "rule" || fact.kind === "set" ? rules[fact.number] : undefined;
}

/** A link of a proof as sentences. */
export function linkMessages(catalog: Catalog, fact: Evidence): readonly Message[] {
  switch (fact.kind) {
    case "rule":
    case "set": {
      const rule = ruleOf(catalog, fact);
      return rule === undefined ? [] : ruleMessages(rule);
    }
    case "need":
      return [message("rule-of-need", { part: fact.part, min: fact.min, stat: fact.stat })];
    case "required":
      return [message("required-slot", { slot: fact.slot })];
    default:
      return [];
  }
}
