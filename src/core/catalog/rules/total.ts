import * as f from "../../base/schema/forms.ts";
import { id } from "../schema/schema-forms.ts";
import type { RuleKind } from "./kind.ts";

export const totalEntries = {
  /** The stat whose value over everything worn is kept within bounds. */
  total: f.optional(id),
};

/** A stat of everything worn keeps within bounds. */
export const total: RuleKind<"total"> = {
  key: "total",
  others: ["atLeast", "atMost"],
  read: (rule, every) => ({ ...every, kind: "total", stat: rule.stat("total"), ...rule.bounds() }),
  compile: (rule, { stat, bound }) => ({
    kind: "bounded",
    stat: stat(rule.stat),
    atLeast: bound(rule.atLeast),
    atMost: bound(rule.atMost),
  }),
  speaksOf: ({ stat, atLeast, atMost }) => ({
    conditions: [],
    stats: [stat, ...[atLeast, atMost].flatMap((bound) => (typeof bound === "object" ? [bound.stat] : []))],
  }),
};
