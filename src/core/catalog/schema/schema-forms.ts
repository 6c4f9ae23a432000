import * as v from "valibot";
import { conditionForm, patternForm } from "../conditions/condition-forms.ts";

/** Ids are lower-case words with hyphens: `storm-hat`. */
export const idForm = /^[a-z][a-z0-9]*(-[a-z0-9]+)*$/;

/** The form of an id. */
export const id = v.pipe(v.string(), v.regex(idForm));
/** The form of a text that players see. */
export const text = v.union([v.string(), v.record(v.string(), v.string())]);

/** A statement about worn parts. */
export const pattern = v.pipe(v.string(), v.regex(patternForm));

/** What something gives to a stat. */
export const gift = v.union([
  v.number(),
  v.strictObject({ add: v.optional(v.number()), times: v.optional(v.pipe(v.number(), v.minValue(0))) }),
]);

export type GiftSource = v.InferOutput<typeof gift>;

const plainCondition = v.pipe(v.string(), v.regex(conditionForm));

/** A condition as it is written. */
export type ConditionSource =
  | string
  | { any: ConditionSource[] }
  | { all: ConditionSource[] }
  | { not: ConditionSource };

/** The form of a condition. */
export const condition: v.GenericSchema<ConditionSource> = v.lazy(() =>
  v.union([
    plainCondition,
    v.strictObject({ any: v.pipe(v.array(condition), v.minLength(1)) }),
    v.strictObject({ all: v.pipe(v.array(condition), v.minLength(1)) }),
    v.strictObject({ not: condition }),
  ]),
);
