import type { ConditionKind } from "./kind.ts";

/** The running game has a signal on, or at a value. */
export const signal: ConditionKind<"signal"> = {
  key: "signal",
  value: "sometimes",
  by: "answer",
  read: (id, value) => ({ kind: "signal", id, value }),
};
