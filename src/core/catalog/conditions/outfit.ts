import type { ConditionKind } from "./kind.ts";

/** An outfit is worn whole. An outfit of nothing never is. */
export const outfit: ConditionKind<"outfit"> = {
  value: "never",
  names: "outfit",
  by: "others",
  expand({ id }, outfits) {
    const parts = outfits.get(id)?.parts ?? [];
    return { kind: parts.length === 0 ? "any" : "all", of: parts.map((part) => ({ kind: "part", id: part })) };
  },
};
