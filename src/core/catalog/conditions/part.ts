import type { ConditionKind } from "./kind.ts";

/** A part is worn. */
export const part: ConditionKind<"part"> = {
  value: "never",
  names: "part",
  by: "worn",
};
