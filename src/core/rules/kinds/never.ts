import { message } from "../../base/message.ts";
import { conditionMessage } from "../condition-message.ts";
import type { SpokenKind } from "./kind.ts";

export const never: SpokenKind<"never"> = {
  messages: ({ patterns }) => [message("rule-never", { patterns: patterns.map(conditionMessage) })],
  explain(rule) {
    throw new TypeError(`Rule ${rule.number} is explained pair by pair, not as a whole`);
  },
};
