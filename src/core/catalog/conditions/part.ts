import type { ConditionKind } from "./kind.ts";

/** A part is worn. */
export const part: ConditionKind<"part"> = {
  key: "part",
  value: "never",
  names: "part",
  by: "worn",
  read: (id) => ({ kind: "part", id }),
};
