import type { Bound, Form } from "./forms.ts";

/** The keys that lead to a value in a document. */
export type Path = readonly (string | number)[];

/** A check of whether a value of the right shape keeps a bound. */
export function boundCheck(bound: Bound): (value: unknown) => boolean {
  switch (bound.type) {
    case "min-length":
      return (value) => (value as string | readonly unknown[]).length >= bound.limit;
    case "max-length":
      return (value) => (value as string | readonly unknown[]).length <= bound.limit;
    case "min":
      return (value) => (value as number) >= bound.limit;
    case "max":
      return (value) => (value as number) <= bound.limit;
    case "above":
      return (value) => (value as number) > bound.limit;
    case "pattern":
      return (value) => bound.pattern.test(value as string);
    case "whole":
      return Number.isSafeInteger;
  }
}

/** Whether a key may be left out. */
export function isOptional(form: Form): boolean {
  return form.type === "optional";
}

/** Whether a value is an object with keys, and no list. */
export function isRecord(value: unknown): value is Readonly<Record<string, unknown>> {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}
