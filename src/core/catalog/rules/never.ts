import * as v from "valibot";
import { pattern } from "../schema/schema-forms.ts";
import type { RuleKind } from "./kind.ts";

export const neverEntries = {
  never: v.optional(v.pipe(v.array(pattern), v.minLength(2))),
  then: v.optional(v.picklist(["displace", "refuse"])),
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
