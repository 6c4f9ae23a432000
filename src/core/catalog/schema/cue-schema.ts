import { limits } from "../../base/limits.ts";
import * as f from "../../base/schema/forms.ts";
import { cueVerbs } from "../model/edit-shapes.ts";
import { editForm } from "./edit-forms.ts";
import { condition, id, text, word } from "./schema-forms.ts";

const seconds = f.number(f.min(0));
const count = f.number(f.whole, f.min(1), f.max(limits.stack));

const action = f.union([
  ...cueVerbs.map((verb) => editForm(verb)),
  f.object({
    /** Takes off what is worn of this outfit. */
    undress: id,
  }),
  f.object({
    /** Puts this part in the bag. */
    give: id,
    /** How many. One when left out. */
    count: f.optional(count),
  }),
  f.object({
    /** Shows this form whatever the signals say; `null` leaves it to them again. */
    form: f.nullable(id),
  }),
  f.object({
    /** The fact of the cue in which the character stands that control is passed to. */
    control: id,
  }),
  f.object({
    /** Raises another word for the same seat. */
    raise: word,
  }),
]);

/** The form of a cue. */
export const cue = f.object({
  /** What its count is kept under in the saves. Without one it is counted as long as the session lasts. */
  id: f.optional(id),
  /** The word that the game raises, such as `touch:locker`. */
  on: word,
  /** Facts that have to come with the word, as they stand here. */
  if: f.optional(f.record(id, f.union([f.string(), f.number(), f.boolean()]))),
  /** What has to hold of the character. */
  when: f.optional(condition),
  /** The least of stats it needs. */
  requires: f.optional(f.record(id, f.number())),
  /** What it does to the character of the seat: all of it, or nothing. */
  do: f.array(action, f.minLength(1)),
  /** How often it follows for each seat. */
  times: f.optional(f.union([f.literal("any"), count])),
  /** Seconds until it follows again. */
  cooldown: f.optional(seconds),
  /** Seconds after arrival in a scene during which it does not follow. */
  grace: f.optional(seconds),
  /** What players read where `when` or `requires` does not hold. */
  message: f.optional(text),
});

export type CueSource = f.Valid<typeof cue>;
