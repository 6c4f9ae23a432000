import * as v from "valibot";
import { readPattern } from "../read/pattern.ts";
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
  conditions: ["never"],
  stats: [],
  read: ({ never: patterns = [], then = "refuse" }, every) => ({
    ...every,
    kind: "never",
    patterns: patterns.map(readPattern),
    then,
  }),
  compile: ({ patterns }, { mark }) => ({ kind: "exclusive", marks: patterns.map(mark) }),
  speaksOf: ({ patterns }) => ({ conditions: patterns, stats: [] }),
};
