import type { ConditionKind } from "./kind.ts";

/** The running game has a signal on, or at a value. */
export const signal: ConditionKind<"signal"> = {
  value: "sometimes",
  by: "answer",
};
