import * as f from "../../base/schema/forms.ts";
import { id } from "../schema/schema-forms.ts";

const bound = f.union([f.number(), f.object({ stat: id })]);

/** What kinds of rules that bound something share. */
export const boundEntries = { atLeast: f.optional(bound), atMost: f.optional(bound) };
