import type { ConditionKind } from "./kind.ts";

/** An outfit is worn whole. An outfit of nothing never is. */
export const outfit: ConditionKind<"outfit"> = {
  key: "outfit",
  value: "never",
  names: "outfit",
  by: "others",
  read: (id) => ({ kind: "outfit", id }),
  expand({ id }, outfits) {
    const parts = outfits.get(id)?.parts ?? [];
    return { kind: parts.length === 0 ? "any" : "all", of: parts.map((part) => ({ kind: "part", id: part })) };
  },
};
