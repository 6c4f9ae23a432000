import { message } from "../../base/message.ts";
import type { Pattern } from "../../catalog/model/catalog.ts";
import { matches, wornEvidence } from "../condition.ts";
import { conditionMessage } from "../condition-message.ts";
import { chosen } from "../explanation.ts";
import { judgedKind } from "../judged-kinds.ts";
import type { SpokenKind } from "./kind.ts";

export const count: SpokenKind<"count"> = {
  messages({ of, atMost, atLeast }) {
    const pattern = countedMessage(of);
    return [
      ...(atMost === undefined ? [] : [message("rule-count-most", { pattern, bound: atMost })]),
      ...(atLeast === undefined ? [] : [message("rule-count-least", { pattern, bound: atLeast })]),
    ];
  },
  explain(rule, dressed) {
    const counted = dressed.worn.filter((worn) => matches(rule.of, worn));
    const value = counted.length;
    const high = rule.atMost !== undefined && value > rule.atMost;
    const bound = (high ? rule.atMost : rule.atLeast) ?? 0;
    return {
      ...message(high ? "count-too-high" : "count-too-low", { pattern: countedMessage(rule.of), value, bound }),
      chain: high ? counted.map(wornEvidence) : [{ kind: "missing", condition: rule.of }],
      culprits: high ? chosen(counted) : [],
    };
  },
};

function countedMessage(of: Pattern) {
  return judgedKind(of).counted?.(of) ?? conditionMessage(of);
}
