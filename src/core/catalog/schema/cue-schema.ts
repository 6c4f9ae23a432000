import * as v from "valibot";
import { limits } from "../../base/limits.ts";
import { editForm } from "./edit-forms.ts";
import { condition, id, text } from "./schema-forms.ts";

const word = v.pipe(v.string(), v.regex(/^[a-z][a-z0-9]*([:-][a-z0-9]+)*$/));
const seconds = v.pipe(v.number(), v.minValue(0));
const count = v.pipe(v.number(), v.safeInteger(), v.minValue(1), v.maxValue(limits.stack));

const action = v.union([
  editForm("wear"),
  editForm("remove"),
  editForm("dress"),
  v.strictObject({ undress: id }),
  editForm("paint"),
  editForm("body"),
  editForm("grow"),
  editForm("fact"),
  v.strictObject({ give: id, count: v.optional(count) }),
  v.strictObject({ form: v.nullable(id) }),
  v.strictObject({ control: id }),
  v.strictObject({ raise: word }),
]);

/** The form of a cue. */
export const cue = v.strictObject({
  id: v.optional(id),
  on: word,
  if: v.optional(v.record(id, v.union([v.string(), v.number(), v.boolean()]))),
  when: v.optional(condition),
  requires: v.optional(v.record(id, v.number())),
  do: v.pipe(v.array(action), v.minLength(1)),
  times: v.optional(v.union([v.literal("any"), count])),
  cooldown: v.optional(seconds),
  grace: v.optional(seconds),
  say: v.optional(text),
});

export type CueSource = v.InferOutput<typeof cue>;
