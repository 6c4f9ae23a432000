import type { ConditionKind } from "./kind.ts";

/** A slot is filled. */
export const slot: ConditionKind<"slot"> = {
  value: "never",
  names: "slot",
  by: "worn",
};
