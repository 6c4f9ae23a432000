import * as v from "valibot";
import { readGifts } from "../read/gift.ts";
import { readPattern } from "../read/pattern.ts";
import { gift, id, pattern } from "../schema/schema-forms.ts";
import type { RuleKind } from "./kind.ts";

export const setEntries = {
  set: v.optional(v.pipe(v.array(pattern), v.minLength(1))),
  gives: v.optional(v.record(id, gift)),
};

/** While so many of some patterns are worn, all of them where no number is said, stats are given something more. */
export const set: RuleKind<"set"> = {
  key: "set",
  others: ["atLeast", "gives"],
  conditions: ["set"],
  stats: [],
  check(rule, findings) {
    const { set: of = [], atLeast, gives } = rule.value;
    if (gives === undefined) findings.report(rule, ["set"], "incomplete-rule", { key: "set", missing: "gives" });
    const count = new Set(of).size;
    if (atLeast === undefined) return;
    if (typeof atLeast === "object" || !Number.isInteger(atLeast) || atLeast < 1 || atLeast > count)
      findings.report(rule, ["atLeast"], "bound-of-set", { count });
  },
  read: ({ set: patterns = [], atLeast, gives }, every) => {
    const of = [...new Set(patterns)].map(readPattern);
    return {
      ...every,
      kind: "set",
      of,
      atLeast: typeof atLeast === "number" ? atLeast : of.length,
      gives: readGifts(gives),
    };
  },
  compile: ({ of, atLeast, gives }, { mark }) => ({ kind: "giving", marks: of.map(mark), atLeast, gives }),
  speaksOf: ({ of, gives }) => ({ conditions: of, stats: Object.keys(gives) }),
};
