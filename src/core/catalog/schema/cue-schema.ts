import * as z from "zod/mini";
import { limits } from "../../base/limits.ts";
import { condition, id, text } from "./schema-forms.ts";

const word = z.string().check(z.regex(/^[a-z][a-z0-9]*([:-][a-z0-9]+)*$/));
const seconds = z.number().check(z.minimum(0));
const count = z.int().check(z.minimum(1), z.maximum(limits.stack));

const action = z.union([
  z.strictObject({ wear: id, in: z.optional(id) }),
  z.strictObject({ remove: id }),
  z.strictObject({ dress: id }),
  z.strictObject({ undress: id }),
  z.strictObject({ paint: id, ramp: z.string() }),
  z.strictObject({ body: id }),
  z.strictObject({ grow: z.literal(true) }),
  z.strictObject({ fact: id, value: z.nullable(z.string()) }),
  z.strictObject({ give: id, count: z.optional(count) }),
  z.strictObject({ form: z.nullable(id) }),
  z.strictObject({ control: id }),
  z.strictObject({ raise: word }),
]);

/** The form of a cue. */
export const cue = z.strictObject({
  id: z.optional(id),
  on: word,
  if: z.optional(z.record(id, z.union([z.string(), z.number(), z.boolean()]))),
  when: z.optional(condition),
  needs: z.optional(z.record(id, z.number())),
  do: z.array(action).check(z.minLength(1)),
  times: z.optional(z.union([z.literal("any"), count])),
  cooldown: z.optional(seconds),
  grace: z.optional(seconds),
  say: z.optional(text),
});

export type CueSource = z.infer<typeof cue>;
