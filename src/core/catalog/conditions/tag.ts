import type { ConditionKind } from "./kind.ts";

/** A part with a tag is worn. */
export const tag: ConditionKind<"tag"> = {
  value: "never",
  names: "tag",
  by: "worn",
};
