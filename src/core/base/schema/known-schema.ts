import type * as v from "valibot";

/** A schema, as the schema library makes it. */
export type Schema = v.GenericSchema;

/** The keys that lead to a value in a document. */
export type Path = readonly (string | number)[];

/** The kinds of schema that forms are written with, as the library documents their parts. */
type KnownSchema =
  | { readonly type: "string" | "number" | "boolean" | "unknown" }
  | { readonly type: "literal"; readonly literal: unknown }
  | { readonly type: "picklist"; readonly options: readonly unknown[] }
  | { readonly type: "optional" | "nullable"; readonly wrapped: Schema }
  | { readonly type: "union"; readonly options: readonly Schema[] }
  | { readonly type: "lazy"; readonly getter: (input: unknown) => Schema }
  | { readonly type: "array"; readonly item: Schema }
  | { readonly type: "strict_tuple"; readonly items: readonly Schema[] }
  | { readonly type: "record"; readonly key: Schema; readonly value: Schema }
  | { readonly type: "object" | "strict_object"; readonly entries: Readonly<Record<string, Schema>> }
  | { readonly type: "object_with_rest"; readonly entries: Readonly<Record<string, Schema>>; readonly rest: Schema };

/** What is asked of a value that has the right type. */
export type Bound =
  | {
      readonly type: "min_length" | "max_length" | "min_value" | "max_value" | "gt_value";
      readonly requirement: number;
    }
  | { readonly type: "regex"; readonly requirement: RegExp }
  | { readonly type: "safe_integer" };

/** The parts of a schema. A kind that no form is written with ends in the `default` of whoever looks at them. */
export function partsOf(schema: Schema): KnownSchema {
  return schema as unknown as KnownSchema;
}

/** The schema that is looked at first, and what is asked besides; `undefined` for one that asks nothing besides. */
export function pipeOf(schema: Schema): { readonly inner: Schema; readonly bounds: readonly Bound[] } | undefined {
  if (!("pipe" in schema)) return undefined;
  const [inner, ...bounds] = schema.pipe as unknown as readonly [Schema, ...Bound[]];
  return { inner, bounds };
}

/** A check of whether a value of the right type keeps a bound. */
export function boundCheck(bound: Bound): (value: unknown) => boolean {
  switch (bound.type) {
    case "min_length": {
      const min = bound.requirement;
      return (value) => (value as string | readonly unknown[]).length >= min;
    }
    case "max_length": {
      const max = bound.requirement;
      return (value) => (value as string | readonly unknown[]).length <= max;
    }
    case "min_value": {
      const min = bound.requirement;
      return (value) => (value as number) >= min;
    }
    case "max_value": {
      const max = bound.requirement;
      return (value) => (value as number) <= max;
    }
    case "gt_value": {
      const min = bound.requirement;
      return (value) => (value as number) > min;
    }
    case "regex": {
      const form = bound.requirement;
      return (value) => form.test(value as string);
    }
    case "safe_integer":
      return Number.isSafeInteger;
    default:
      throw notKnown((bound as { type: string }).type);
  }
}

/** The error of a kind of schema that no form was written with before: whoever reads schemas has to learn it. */
export function notKnown(type: string): TypeError {
  return new TypeError(`No form has "${type}"`);
}

/** Whether a key may be left out. */
export function isOptional(schema: Schema): boolean {
  return schema.type === "optional";
}

/** Whether a value is an object with keys, and no list. */
export function isRecord(value: unknown): value is Readonly<Record<string, unknown>> {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}
