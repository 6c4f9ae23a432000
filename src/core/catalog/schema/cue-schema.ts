import { limits } from "../../base/limits.ts";
import * as f from "../../base/schema/forms.ts";
import { editForm } from "./edit-forms.ts";
import { condition, id, text } from "./schema-forms.ts";

const word = f.string(f.pattern(/^[a-z][a-z0-9]*([:-][a-z0-9]+)*$/));
const seconds = f.number(f.min(0));
const count = f.number(f.whole, f.min(1), f.max(limits.stack));

const action = f.union([
  editForm("wear"),
  editForm("remove"),
  editForm("dress"),
  f.object({ undress: id }),
  editForm("paint"),
  editForm("body"),
  editForm("grow"),
  editForm("fact"),
  f.object({ give: id, count: f.optional(count) }),
  f.object({ form: f.nullable(id) }),
  f.object({ control: id }),
  f.object({ raise: word }),
]);

/** The form of a cue. */
export const cue = f.object({
  id: f.optional(id),
  on: word,
  if: f.optional(f.record(id, f.union([f.string(), f.number(), f.boolean()]))),
  when: f.optional(condition),
  requires: f.optional(f.record(id, f.number())),
  do: f.array(action, f.minLength(1)),
  times: f.optional(f.union([f.literal("any"), count])),
  cooldown: f.optional(seconds),
  grace: f.optional(seconds),
  say: f.optional(text),
});

export type CueSource = f.Valid<typeof cue>;
