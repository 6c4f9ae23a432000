import type { ConditionKind } from "./kind.ts";

/** A character has given an answer. */
export const fact: ConditionKind<"fact"> = {
  key: "fact",
  value: "always",
  by: "answer",
  read: (id, value = "") => ({ kind: "fact", id, value }),
};
