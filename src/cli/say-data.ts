import { message } from "../core/base/message.ts";
import type { Evidence } from "../core/character/edit.ts";
import { conditionMessage } from "../core/rules/condition-message.ts";
import { say } from "./output.ts";

/** A link of a chain in words. */
export function sayFact(fact: Evidence): string {
  switch (fact.kind) {
    case "worn":
      return `${fact.part} is worn in ${fact.slot}${fact.issued ? ", because nothing else is" : ""}`;
    case "body":
      return `the body is ${fact.id}`;
    case "fact":
      return `${fact.id} is ${fact.value ?? "not answered"}`;
    case "signal":
      return `${fact.id} is ${fact.value ?? "not signaled"}`;
    case "stat":
      return `${fact.id} is ${fact.value}`;
    case "carried":
      return `${fact.count} of ${fact.part} in the bag`;
    case "access":
      return `${fact.part} is ${fact.access}`;
    case "need":
      return `${fact.part} needs ${fact.min} ${fact.stat}`;
    case "required":
      return `slot ${fact.slot} must not be empty`;
    case "set":
      return `enough of the set of rule ${fact.number} is worn`;
    case "missing":
      return say(message("is-missing", { needs: conditionMessage(fact.condition) }));
    case "rule":
      return `rule ${fact.number} of the catalog says so`;
  }
}
