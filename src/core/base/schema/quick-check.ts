import { getOrInsert } from "../get-or-insert.ts";
import { boundCheck, isOptional, notKnown, partsOf, pipeOf, type Schema } from "./known-schema.ts";

/** Whether a value has a form, and nothing about why not. */
export type QuickCheck = (value: unknown) => boolean;

/**
 * Makes a check of plain data from a schema: many times as quick as the schema library, and in agreement with it, which tests compare.
 *
 * @throws TypeError for a kind of schema that no form is written with, so that a new one is not passed over.
 */
export function quickCheck(schema: Schema): QuickCheck {
  const pipe = pipeOf(schema);
  const [bound, another] = pipe?.bounds ?? [];
  // The most frequent of all, in one call: a text that is not too long.
  if (pipe?.inner.type === "string" && bound?.type === "max_length" && another === undefined) {
    const max = bound.requirement;
    return (value) => typeof value === "string" && value.length <= max;
  }
  if (pipe !== undefined) {
    return pipe.bounds
      .map(boundCheck)
      .reduce<QuickCheck>((inner, holds) => (value) => inner(value) && holds(value), quickCheck(pipe.inner));
  }
  const known = partsOf(schema);
  switch (known.type) {
    case "string":
      return (value) => typeof value === "string";
    case "boolean":
      return (value) => typeof value === "boolean";
    case "number":
      return Number.isFinite;
    case "unknown":
      return () => true;
    case "literal": {
      const { literal } = known;
      return (value) => value === literal;
    }
    case "picklist": {
      const options = new Set(known.options);
      return (value) => options.has(value);
    }
    case "optional":
      return orElse(undefined, quickCheck(known.wrapped));
    case "nullable":
      return orElse(null, quickCheck(known.wrapped));
    case "union": {
      const options = known.options.map(quickCheck);
      return (value) => options.some((check) => check(value));
    }
    case "lazy":
      return getOrInsert(lazyChecks, schema, () => lazyCheck(known.getter));
    case "array": {
      const item = quickCheck(known.item);
      return (value) => Array.isArray(value) && isEvery(value, item);
    }
    case "strict_tuple": {
      const items = known.items.map(quickCheck);
      return (value) =>
        Array.isArray(value) && value.length === items.length && items.every((check, at) => check(value[at]));
    }
    case "record":
      return recordCheck(quickCheck(known.key), quickCheck(known.value));
    case "object":
      return objectCheck(known.entries, () => true);
    case "strict_object":
      return objectCheck(known.entries, () => false);
    case "object_with_rest":
      return objectCheck(known.entries, quickCheck(known.rest));
    default:
      throw notKnown(schema.type);
  }
}

/** One for each schema that may hold itself, or there would be no end to them. */
const lazyChecks = new WeakMap<Schema, QuickCheck>();

/** How often what holds itself is gone into, so that the stack holds. */
const deepest = 16;

function lazyCheck(getter: (input: unknown) => Schema): QuickCheck {
  let made: QuickCheck | undefined;
  let depth = 0;
  return (value) => {
    made ??= quickCheck(getter(value));
    if (depth === deepest) return false;
    depth += 1;
    const holds = made(value);
    depth -= 1;
    return holds;
  };
}

/** Holes of a list are looked at too, which `every` passes over. */
function isEvery(list: readonly unknown[], check: QuickCheck): boolean {
  for (let at = 0; at < list.length; at += 1) if (!check(list[at])) return false;
  return true;
}

function orElse(also: unknown, check: QuickCheck): QuickCheck {
  return (value) => value === also || check(value);
}

function recordCheck(key: QuickCheck, each: QuickCheck): QuickCheck {
  return (value) => {
    if (!isPlain(value)) return false;
    for (const name in value) if (!key(name) || !each(value[name])) return false;
    return true;
  };
}

function objectCheck(entries: Readonly<Record<string, Schema>>, others: QuickCheck): QuickCheck {
  const checks = new Map(Object.entries(entries).map(([key, schema]) => [key, quickCheck(schema)]));
  const required = new Set(Object.entries(entries).flatMap(([key, schema]) => (isOptional(schema) ? [] : [key])));
  return (value) => {
    if (!isPlain(value)) return false;
    let missing = required.size;
    for (const key in value) {
      if (!(checks.get(key) ?? others)(value[key])) return false;
      if (required.has(key)) missing -= 1;
    }
    return missing === 0;
  };
}

/** Plain data only, wherever it was made: nothing else is in JSON. */
function isPlain(value: unknown): value is Readonly<Record<string, unknown>> {
  if (typeof value !== "object" || value === null) return false;
  const prototype: unknown = Object.getPrototypeOf(value);
  // What another page or worker made has a prototype of its own, which is the last one too.
  return prototype === Object.prototype || (prototype !== null && Object.getPrototypeOf(prototype) === null);
}
