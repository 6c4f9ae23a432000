import { message } from "../../base/message.ts";
import { evidenceIn, missingIn, partsIn, presentIn } from "../condition.ts";
import { conditionMessage } from "../condition-message.ts";
import { chosen } from "../explanation.ts";
import type { SpokenKind } from "./kind.ts";

export const needs: SpokenKind<"needs"> = {
  messages: (rule) => [
    message("rule-needs", { when: conditionMessage(rule.when), needs: conditionMessage(rule.needs) }),
  ],
  explain(rule, dressed) {
    // Only what is there is said to ask for anything, and only what is missing is asked for.
    const [when, missing] = [presentIn(rule.when, dressed), missingIn(rule.needs, dressed)];
    return {
      ...message("needs-missing", { when: conditionMessage(when), needs: conditionMessage(missing) }),
      chain: [...evidenceIn(when, dressed), { kind: "missing", condition: missing }],
      culprits: chosen(partsIn(when, dressed)),
    };
  },
};
