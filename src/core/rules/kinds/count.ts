import { message } from "../../base/message.ts";
import { fixBy } from "../../character/refuse.ts";
import { matches, wornEvidence } from "../condition.ts";
import { conditionMessage } from "../condition-message.ts";
import { chosen } from "../explanation.ts";
import type { SpokenKind } from "./kind.ts";

export const count: SpokenKind<"count"> = {
  messages({ of, atMost, atLeast }) {
    const pattern = conditionMessage(of);
    return [
      ...(atMost === undefined ? [] : [message("rule-count-most", { pattern, bound: atMost })]),
      ...(atLeast === undefined ? [] : [message("rule-count-least", { pattern, bound: atLeast })]),
    ];
  },
  explain(rule, dressed) {
    const pattern = conditionMessage(rule.of);
    const counted = dressed.worn.filter((worn) => matches(rule.of, worn));
    const value = counted.length;
    const high = rule.atMost !== undefined && value > rule.atMost;
    const bound = (high ? rule.atMost : rule.atLeast) ?? 0;
    return {
      ...message(high ? "count-too-high" : "count-too-low", { pattern, value, bound }),
      chain: high ? counted.map(wornEvidence) : [{ kind: "missing", condition: rule.of }],
      culprits: high ? chosen(counted) : [],
      advice: high ? undefined : fixBy("put-on-more", { pattern }),
    };
  },
};
