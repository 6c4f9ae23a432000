import * as v from "valibot";
import { editForm } from "./edit-forms.ts";
import { condition, id, pattern, text } from "./schema-forms.ts";

const colorOrRamp = v.pipe(v.string(), v.regex(/^([a-z][a-z0-9]*(-[a-z0-9]+)*|#[0-9a-fA-F]{6})$/));
const words = v.pipe(v.array(v.pipe(v.string(), v.minLength(1))), v.minLength(1));

/** The form of a preset. */
export const preset = v.strictObject({
  title: v.optional(text),
  say: v.optional(text),
  body: id,
  parts: v.array(id),
  colors: v.optional(v.record(id, colorOrRamp)),
  facts: v.optional(v.record(id, v.string())),
});

/** The form of `names`. */
export const names = v.strictObject({
  longest: v.optional(v.pipe(v.number(), v.safeInteger(), v.minValue(1), v.maxValue(64))),
  first: v.optional(words),
  middle: v.optional(words),
  last: v.optional(words),
});

const factEdit = v.union([editForm("wear"), editForm("dress"), editForm("paint")]);

const factAnswer = v.strictObject({
  title: v.optional(text),
  say: v.optional(text),
  do: v.optional(v.array(factEdit)),
});

const transition = v.strictObject({ if: condition, go: id });

/** One form for every kind of step; which keys go together is checked after, where it becomes a finding of its own. */
const step = v.strictObject({
  title: v.optional(text),
  say: v.optional(text),
  ask: v.picklist(["body", "part", "color", "outfit", "preset", "name", "fact"]),
  slot: v.optional(id),
  channel: v.optional(id),
  fact: v.optional(id),
  from: v.optional(v.union([v.pipe(v.array(v.union([id, pattern])), v.minLength(1)), v.record(id, factAnswer)])),
  bare: v.optional(v.boolean()),
  if: v.optional(condition),
  confirm: v.optional(v.boolean()),
  later: v.optional(v.boolean()),
  next: v.optional(v.union([id, v.pipe(v.array(v.union([id, transition])), v.minLength(1))])),
});

/** The form of `creation`. */
export const creation = v.strictObject({ start: id, steps: v.record(id, step) });

export type PresetSource = v.InferOutput<typeof preset>;
export type NamesSource = v.InferOutput<typeof names>;
export type CreationSource = v.InferOutput<typeof creation>;
export type StepSource = v.InferOutput<typeof step>;
