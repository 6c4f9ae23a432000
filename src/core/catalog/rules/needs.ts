import * as v from "valibot";
import { readCondition } from "../read/pattern.ts";
import { condition } from "../schema/schema-forms.ts";
import type { RuleKind } from "./kind.ts";

export const needsEntries = { if: v.optional(condition), needs: v.optional(condition) };

/** Where one condition holds, another must. */
export const needs: RuleKind<"needs"> = {
  key: "if",
  others: ["needs"],
  conditions: ["if", "needs"],
  stats: [],
  check(rule, findings) {
    if (rule.value.needs === undefined)
      findings.report(rule, ["if"], "incomplete-rule", { key: "if", missing: "needs" });
  },
  read: ({ if: when = never, needs: needed = never }, every) => ({
    ...every,
    kind: "needs",
    when: readCondition(when),
    needs: readCondition(needed),
  }),
  compile: (rule, { condition: compiled }) => ({
    kind: "implied",
    when: compiled(rule.when),
    needs: compiled(rule.needs),
  }),
  speaksOf: (rule) => ({ conditions: [rule.when, rule.needs], stats: [] }),
};

/** What never holds. */
const never = { any: [] };
