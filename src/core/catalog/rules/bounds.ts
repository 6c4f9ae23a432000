import * as v from "valibot";
import { id } from "../schema/schema-forms.ts";

const bound = v.union([v.number(), v.strictObject({ stat: id })]);

/** What kinds of rules that bound something share. */
export const boundEntries = { atLeast: v.optional(bound), atMost: v.optional(bound) };
