import { message } from "../../base/message.ts";
import { fixBy } from "../../character/refuse.ts";
import { evidenceIn, partsIn } from "../condition.ts";
import { conditionMessage } from "../condition-message.ts";
import { chosen } from "../explanation.ts";
import type { SpokenKind } from "./kind.ts";

export const needs: SpokenKind<"needs"> = {
  messages: (rule) => [
    message("rule-needs", { when: conditionMessage(rule.when), needs: conditionMessage(rule.needs) }),
  ],
  explain(rule, dressed) {
    const needed = conditionMessage(rule.needs);
    return {
      ...message("needs-missing", { when: conditionMessage(rule.when), needs: needed }),
      chain: [...evidenceIn(rule.when, dressed), { kind: "missing", condition: rule.needs }],
      culprits: chosen(partsIn(rule.when, dressed)),
      advice: fixBy("see-to", { needs: needed }),
    };
  },
};
