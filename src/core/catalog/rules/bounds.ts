import * as f from "../../base/schema/forms.ts";
import { id } from "../schema/schema-forms.ts";

const bound = f.union([
  f.number(),
  f.object({
    /** The stat that is the bound. */
    stat: id,
  }),
]);

/** What kinds of rules that bound something share. */
export const boundEntries = {
  /** The least: a number, or another stat. In a set, how many of its patterns are enough. */
  atLeast: f.optional(bound),
  /** The most: a number, or another stat. */
  atMost: f.optional(bound),
};
