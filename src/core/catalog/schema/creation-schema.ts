import * as f from "../../base/schema/forms.ts";
import { editForm } from "./edit-forms.ts";
import { condition, id, pattern, text } from "./schema-forms.ts";

const colorOrRamp = f.string(f.pattern(/^([a-z][a-z0-9]*(-[a-z0-9]+)*|#[0-9a-fA-F]{6})$/));
const words = f.array(f.string(f.minLength(1)), f.minLength(1));

/** The form of a preset. */
export const preset = f.object({
  title: f.optional(text),
  say: f.optional(text),
  body: id,
  parts: f.array(id),
  colors: f.optional(f.record(id, colorOrRamp)),
  facts: f.optional(f.record(id, f.string())),
});

/** The form of `names`. */
export const names = f.object({
  longest: f.optional(f.number(f.whole, f.min(1), f.max(64))),
  first: f.optional(words),
  middle: f.optional(words),
  last: f.optional(words),
});

const factEdit = f.union([editForm("wear"), editForm("dress"), editForm("paint")]);

const factAnswer = f.object({
  title: f.optional(text),
  say: f.optional(text),
  do: f.optional(f.array(factEdit)),
});

const transition = f.object({ if: condition, go: id });

/** One form for every kind of step; which keys go together is checked after, where it becomes a finding of its own. */
const step = f.object({
  title: f.optional(text),
  say: f.optional(text),
  ask: f.picklist(["body", "part", "color", "outfit", "preset", "name", "fact"]),
  slot: f.optional(id),
  channel: f.optional(id),
  fact: f.optional(id),
  from: f.optional(f.union([f.array(f.union([id, pattern]), f.minLength(1)), f.record(id, factAnswer)])),
  bare: f.optional(f.boolean()),
  if: f.optional(condition),
  confirm: f.optional(f.boolean()),
  later: f.optional(f.boolean()),
  next: f.optional(f.union([id, f.array(f.union([id, transition]), f.minLength(1))])),
});

/** The form of `creation`. */
export const creation = f.object({ start: id, steps: f.record(id, step) });

export type PresetSource = f.Valid<typeof preset>;
export type NamesSource = f.Valid<typeof names>;
export type CreationSource = f.Valid<typeof creation>;
export type StepSource = f.Valid<typeof step>;
