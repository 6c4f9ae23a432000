import * as f from "../../base/schema/forms.ts";
import { gift, id, pattern } from "../schema/schema-forms.ts";
import type { RuleKind } from "./kind.ts";

export const setEntries = {
  /** Patterns of which so many have to be worn; all of them without `atLeast`. */
  set: f.optional(f.array(pattern, f.minLength(1))),
  /** What stats are given while they are. */
  gives: f.optional(f.record(id, gift)),
};

/** While so many of some patterns are worn, all of them where no number is said, stats are given something more. */
export const set: RuleKind<"set"> = {
  key: "set",
  others: ["atLeast", "gives"],
  read(rule, every) {
    const patterns = rule.patterns("set");
    const of = patterns.filter(
      ({ kind, id }, at) => patterns.findIndex((one) => one.kind === kind && one.id === id) === at,
    );
    const { atLeast = of.length } = rule.source;
    const isWithin = typeof atLeast === "number" && Number.isInteger(atLeast) && atLeast >= 1 && atLeast <= of.length;
    if (!isWithin) rule.report("atLeast", "bound-of-set", { count: of.length });
    return { ...every, kind: "set", of, atLeast: isWithin ? atLeast : of.length, gives: rule.gifts("gives") };
  },
  compile: ({ of, atLeast, gives }, { mark }) => ({ kind: "giving", marks: of.map(mark), atLeast, gives }),
  speaksOf: ({ of, gives }) => ({
    conditions: of.map((condition) => ({ key: "set", condition })),
    stats: Object.keys(gives),
  }),
};
