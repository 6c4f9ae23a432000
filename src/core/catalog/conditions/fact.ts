import type { ConditionKind } from "./kind.ts";

/** A character has given an answer. */
export const fact: ConditionKind<"fact"> = {
  value: "always",
  by: "answer",
};
