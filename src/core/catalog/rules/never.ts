import * as f from "../../base/schema/forms.ts";
import { pattern } from "../schema/schema-forms.ts";
import type { RuleKind } from "./kind.ts";

export const neverEntries = {
  never: f.optional(f.array(pattern, f.minLength(2))),
  then: f.optional(f.picklist(["displace", "refuse"])),
};

/** No two different parts match two different patterns. */
export const never: RuleKind<"never"> = {
  key: "never",
  others: ["then"],
  read: (rule, every) => ({
    ...every,
    kind: "never",
    patterns: rule.patterns("never"),
    then: rule.source.then ?? "refuse",
  }),
  compile: ({ patterns }, { mark }) => ({ kind: "exclusive", marks: patterns.map(mark) }),
  speaksOf: ({ patterns }) => ({ conditions: patterns, stats: [] }),
};
