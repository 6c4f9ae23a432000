import * as f from "../../base/schema/forms.ts";
import { condition } from "../schema/schema-forms.ts";
import type { RuleKind } from "./kind.ts";

export const needsEntries = {
  /** Where this holds, `needs` must. */
  if: f.optional(condition),
  /** What must hold where `if` does. */
  needs: f.optional(condition),
};

/** Where one condition holds, another must. */
export const needs: RuleKind<"needs"> = {
  key: "if",
  others: ["needs"],
  read: (rule, every) => ({ ...every, kind: "needs", when: rule.condition("if"), needs: rule.condition("needs") }),
  compile: (rule, { condition: compiled }) => ({
    kind: "implied",
    when: compiled(rule.when),
    needs: compiled(rule.needs),
  }),
  speaksOf: (rule) => ({
    conditions: [
      { key: "if", condition: rule.when },
      { key: "needs", condition: rule.needs },
    ],
    stats: [],
  }),
};
