import type { ConditionKind } from "./kind.ts";

/** A part with a tag is worn. */
export const tag: ConditionKind<"tag"> = {
  key: "tag",
  value: "never",
  names: "tag",
  by: "worn",
  read: (id) => ({ kind: "tag", id }),
};
