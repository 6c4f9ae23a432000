import * as f from "../../base/schema/forms.ts";
import { conditionForm, patternForm } from "../conditions/condition-forms.ts";
import { idText } from "../id-form.ts";

/** Ids are lower-case words with hyphens, `storm-hat`; what a pack adds may bear its name before a dot, `festival.storm-hat`. */
export const idForm = new RegExp(`^${idText}$`);

/** The form of an id. */
export const id = f.string(f.pattern(idForm));
/** The form of a word of the game's own: `step`, `touch:locker`. */
export const word = f.string(f.pattern(/^[a-z][a-z0-9]*([:-][a-z0-9]+)*$/));
/** The form of a text that players see. */
export const text = f.union([f.string(), f.record(f.string(), f.string())]);

/** A statement about worn parts. */
export const pattern = f.string(f.pattern(patternForm));

/** What something gives to a stat. */
export const gift = f.union([
  f.number(),
  f.object({
    /** What it adds. */
    add: f.optional(f.number()),
    /** What the sum is multiplied by. */
    times: f.optional(f.number(f.min(0))),
  }),
]);

export type GiftSource = f.Valid<typeof gift>;

const plainCondition = f.string(f.pattern(conditionForm));

/** A condition as it is written. */
export type ConditionSource =
  | string
  | {
      /** One of these has to hold, or several. */
      readonly any: readonly ConditionSource[];
    }
  | {
      /** All of these have to hold. */
      readonly all: readonly ConditionSource[];
    }
  | {
      /** This must not hold. */
      readonly not: ConditionSource;
    };

/** The form of a condition. */
export const condition: f.Form<ConditionSource> = f.lazy(() =>
  f.union([
    plainCondition,
    f.object({ any: f.array(condition, f.minLength(1)) }),
    f.object({ all: f.array(condition, f.minLength(1)) }),
    f.object({ not: condition }),
  ]),
);
