import type { ConditionKind } from "./kind.ts";

/** The character has a body. */
export const body: ConditionKind<"body"> = {
  value: "never",
  names: "body",
  by: "body",
};
