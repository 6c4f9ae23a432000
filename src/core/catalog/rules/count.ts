import * as v from "valibot";
import { readPattern } from "../read/pattern.ts";
import { pattern } from "../schema/schema-forms.ts";
import type { RuleKind } from "./kind.ts";

export const countEntries = { count: v.optional(pattern) };

/** The number of worn parts of a pattern keeps within bounds. */
export const count: RuleKind<"count"> = {
  key: "count",
  others: ["atLeast", "atMost"],
  conditions: ["count"],
  stats: [],
  bounds: "numbers",
  read: ({ count: of = "", atLeast, atMost }, every) => ({
    ...every,
    kind: "count",
    of: readPattern(of),
    atLeast: typeof atLeast === "number" ? atLeast : undefined,
    atMost: typeof atMost === "number" ? atMost : undefined,
  }),
  compile: ({ of, atLeast, atMost }, { mark }) => ({ kind: "counted", marks: [mark(of)], atLeast, atMost }),
  speaksOf: ({ of }) => ({ conditions: [of], stats: [] }),
};
