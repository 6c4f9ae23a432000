import type { ConditionKind } from "./kind.ts";

/** A slot is filled. */
export const slot: ConditionKind<"slot"> = {
  key: "slot",
  value: "never",
  names: "slot",
  by: "worn",
  read: (id) => ({ kind: "slot", id }),
};
