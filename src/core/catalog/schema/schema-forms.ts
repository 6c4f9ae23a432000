import * as z from "zod/mini";

/** Ids are lower-case words with hyphens: `storm-hat`. */
export const idForm = /^[a-z][a-z0-9]*(-[a-z0-9]+)*$/;

/** The form of an id. */
export const id = z.string().check(z.regex(idForm));
/** The form of a text that players see. */
export const text = z.union([z.string(), z.record(z.string(), z.string())]);

/** A statement about worn parts. */
export const pattern = z.string().check(z.regex(/^(part|tag|slot):[a-z][a-z0-9]*(-[a-z0-9]+)*$/));

const conditionPattern = z
  .string()
  .check(
    z.regex(
      /^((part|tag|slot|body|outfit):[a-z][a-z0-9]*(-[a-z0-9]+)*|fact:[a-z][a-z0-9]*(-[a-z0-9]+)*=.+|signal:[a-z][a-z0-9]*(-[a-z0-9]+)*(=.+)?)$/,
    ),
  );

/** A condition as it is written. */
export type ConditionSource =
  | string
  | { any: ConditionSource[] }
  | { all: ConditionSource[] }
  | { not: ConditionSource };

/** The form of a condition. */
export const condition: z.ZodMiniType<ConditionSource> = z.lazy(() =>
  z.union([
    conditionPattern,
    z.strictObject({ any: z.array(condition).check(z.minLength(1)) }),
    z.strictObject({ all: z.array(condition).check(z.minLength(1)) }),
    z.strictObject({ not: condition }),
  ]),
);
