import { message } from "../../base/message.ts";
import { wornEvidence } from "../condition.ts";
import { conditionMessage } from "../condition-message.ts";
import { chosen } from "../explanation.ts";
import type { SpokenKind } from "./kind.ts";

export const never: SpokenKind<"never"> = {
  messages: ({ patterns }) => [message("rule-never", { patterns: patterns.map(conditionMessage) })],
  explain(_rule, _dressed, _state, pair) {
    const [part = "", other = ""] = pair.map((worn) => worn.part.id);
    return {
      ...message("never-together", { part, other }),
      subject: { kind: "part", id: part },
      slot: pair[1]?.slot,
      chain: pair.map(wornEvidence),
      culprits: chosen(pair),
    };
  },
};
