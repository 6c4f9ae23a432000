import * as z from "zod/mini";
import { condition, id, pattern, text } from "./schema-forms.ts";

const colorOrRamp = z.string().check(z.regex(/^([a-z][a-z0-9]*(-[a-z0-9]+)*|#[0-9a-f]{6})$/i));
const words = z.array(z.string().check(z.minLength(1))).check(z.minLength(1));

/** The form of a preset. */
export const preset = z.strictObject({
  title: z.optional(text),
  say: z.optional(text),
  body: id,
  parts: z.array(id),
  colors: z.optional(z.record(id, colorOrRamp)),
  facts: z.optional(z.record(id, z.string())),
});

/** The form of `names`. */
export const names = z.strictObject({
  longest: z.optional(z.int().check(z.minimum(1), z.maximum(64))),
  first: z.optional(words),
  middle: z.optional(words),
  last: z.optional(words),
});

const factEdit = z.union([
  z.strictObject({ wear: id, in: z.optional(id) }),
  z.strictObject({ dress: id }),
  z.strictObject({ paint: id, ramp: colorOrRamp }),
]);

const factAnswer = z.strictObject({
  title: z.optional(text),
  say: z.optional(text),
  do: z.optional(z.array(factEdit)),
});

const turn = z.strictObject({ if: condition, go: id });

/** One form for every kind of step; which keys go together is checked after, where it can be said in a sentence. */
const step = z.strictObject({
  title: z.optional(text),
  say: z.optional(text),
  ask: z.enum(["body", "part", "color", "outfit", "preset", "name", "fact"]),
  slot: z.optional(id),
  channel: z.optional(id),
  fact: z.optional(id),
  from: z.optional(z.union([z.array(z.union([id, pattern])).check(z.minLength(1)), z.record(id, factAnswer)])),
  bare: z.optional(z.boolean()),
  if: z.optional(condition),
  confirm: z.optional(z.boolean()),
  later: z.optional(z.boolean()),
  next: z.optional(z.union([id, z.array(z.union([id, turn])).check(z.minLength(1))])),
});

/** The form of `creation`. */
export const creation = z.strictObject({ start: id, steps: z.record(id, step) });

export type PresetSource = z.infer<typeof preset>;
export type NamesSource = z.infer<typeof names>;
export type CreationSource = z.infer<typeof creation>;
export type StepSource = z.infer<typeof step>;
