import * as f from "../../base/schema/forms.ts";
import { idText } from "../id-form.ts";
import { editForm } from "./edit-forms.ts";
import { condition, id, pattern, text } from "./schema-forms.ts";

const colorOrRamp = f.string(f.pattern(new RegExp(`^(${idText}|#[0-9a-fA-F]{6})$`)));
const words = f.array(f.string(f.minLength(1)), f.minLength(1));

/** The form of a preset. */
export const preset = f.object({
  /** What players call it. */
  title: f.optional(text),
  /** What the author says of it. */
  say: f.optional(text),
  /** The body. */
  body: id,
  /** What is worn, each in the first of its slots that is free. */
  parts: f.array(id),
  /** Ramps, or colors `#rrggbb`, by channel. */
  colors: f.optional(f.record(id, colorOrRamp)),
  /** Answers, by fact. */
  facts: f.optional(f.record(id, f.string())),
});

/** The form of `names`. */
export const names = f.object({
  /** The greatest length, in letters as a reader counts them. */
  longest: f.optional(f.number(f.whole, f.min(1), f.max(64))),
  /** What made-up names begin with. */
  first: f.optional(words),
  /** What they may have between. */
  middle: f.optional(words),
  /** What they end with. */
  last: f.optional(words),
});

const factEdit = f.union([editForm("wear"), editForm("dress"), editForm("paint")]);

const factAnswer = f.object({
  /** What players call it. */
  title: f.optional(text),
  /** What the author says of it. */
  say: f.optional(text),
  /** What it does to the character besides being kept. */
  do: f.optional(f.array(factEdit)),
});

const transition = f.object({
  /** What has to hold of the character. */
  if: condition,
  /** The step it goes on to then. */
  go: id,
});

/** One form for every kind of step; which keys go together is checked after, where it becomes a finding of its own. */
const step = f.object({
  /** What the step is called. That of its slot or channel when left out. */
  title: f.optional(text),
  /** The question as it is asked. */
  say: f.optional(text),
  /** What it asks for. */
  ask: f.picklist(["body", "part", "color", "outfit", "preset", "name", "fact"]),
  /** The slot whose part is asked for; goes with `part`. */
  slot: f.optional(id),
  /** The channel whose color is asked for; goes with `color`. */
  channel: f.optional(id),
  /** What the answer is kept as; goes with `fact`. */
  fact: f.optional(id),
  /** What it offers: ids, or patterns such as `tag:lamp`; for a fact its answers, by id. All there are when left out. */
  from: f.optional(f.union([f.array(f.union([id, pattern]), f.minLength(1)), f.record(id, factAnswer)])),
  /** Whether nothing is an answer to a step that asks for a part. It is, unless the slot is required, when left out. */
  bare: f.optional(f.boolean()),
  /** What has to hold of what was answered before; the step is passed by where it does not. */
  if: f.optional(condition),
  /** Asks back before it goes on. */
  confirm: f.optional(f.boolean()),
  /** Can be left for later. */
  later: f.optional(f.boolean()),
  /** Where it goes on: a step, or several, of which the first whose condition holds is taken. The flow ends where there is none. */
  next: f.optional(f.union([id, f.array(f.union([id, transition]), f.minLength(1))])),
});

/** The form of `creation`. */
export const creation = f.object({
  /** The step it begins with. */
  start: id,
  /** All steps, by id. */
  steps: f.record(id, step),
});

export type PresetSource = f.Valid<typeof preset>;
export type NamesSource = f.Valid<typeof names>;
export type CreationSource = f.Valid<typeof creation>;
export type StepSource = f.Valid<typeof step>;
