import * as f from "../../base/schema/forms.ts";
import { pattern } from "../schema/schema-forms.ts";
import type { RuleKind } from "./kind.ts";

export const neverEntries = {
  /** Patterns that exclude one another: no two parts are worn that match two of them. */
  never: f.optional(f.array(pattern, f.minLength(2))),
  /** How an edit that would break the rule is handled: the other part is taken off (`displace`), or the edit is refused. */
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
  speaksOf: ({ patterns }) => ({ conditions: patterns.map((condition) => ({ key: "never", condition })), stats: [] }),
};
