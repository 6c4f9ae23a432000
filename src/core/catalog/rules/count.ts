import * as f from "../../base/schema/forms.ts";
import { pattern } from "../schema/schema-forms.ts";
import type { RuleKind } from "./kind.ts";

export const countEntries = {
  /** Counts worn parts of a pattern, such as `tag:lamp`, and keeps their number within bounds. */
  count: f.optional(pattern),
};

/** The number of worn parts of a pattern keeps within bounds. */
export const count: RuleKind<"count"> = {
  key: "count",
  others: ["atLeast", "atMost"],
  read: (rule, every) => ({ ...every, kind: "count", of: rule.pattern("count"), ...rule.numbers() }),
  compile: ({ of, atLeast, atMost }, { mark }) => ({ kind: "counted", marks: [mark(of)], atLeast, atMost }),
  speaksOf: ({ of }) => ({ conditions: [{ key: "count", condition: of }], stats: [] }),
};
