import { getOrInsert } from "../get-or-insert.ts";
import { boundCheck, isOptional } from "./bounds.ts";
import type { Entries, Form } from "./forms.ts";

/** Whether a value has a form, and nothing about why not. */
export type QuickCheck = (value: unknown) => boolean;

/** Makes a check of plain data from its form. */
export function quickCheck(form: Form): QuickCheck {
  const { bounds = [] } = form;
  const [bound, another] = bounds;
  // The most frequent of all, in one call: a text that is not too long.
  if (form.type === "string" && bound?.type === "max-length" && another === undefined) {
    const max = bound.limit;
    return (value) => typeof value === "string" && value.length <= max;
  }
  return bounds
    .map(boundCheck)
    .reduce<QuickCheck>((inner, holds) => (value) => inner(value) && holds(value), shapeCheck(form));
}

function shapeCheck(form: Form): QuickCheck {
  switch (form.type) {
    case "string":
      return (value) => typeof value === "string";
    case "boolean":
      return (value) => typeof value === "boolean";
    case "number":
      return Number.isFinite;
    case "unknown":
      return () => true;
    case "literal": {
      const { literal } = form;
      return (value) => value === literal;
    }
    case "picklist": {
      const options = new Set(form.options);
      return (value) => options.has(value);
    }
    case "optional":
      return orElse(undefined, quickCheck(form.wrapped));
    case "nullable":
      return orElse(null, quickCheck(form.wrapped));
    case "union": {
      const options = form.options.map(quickCheck);
      return (value) => isAny(options, value);
    }
    case "lazy":
      return getOrInsert(lazyChecks, form, () => lazyCheck(form.getter));
    case "array": {
      const item = quickCheck(form.item);
      return (value) => Array.isArray(value) && isEvery(value, item);
    }
    case "tuple": {
      const items = form.items.map(quickCheck);
      return (value) =>
        Array.isArray(value) && value.length === items.length && items.every((check, at) => check(value[at]));
    }
    case "record":
      return recordCheck(quickCheck(form.key), quickCheck(form.value));
    case "object":
      return objectCheck(form.entries, form.rest === undefined ? () => false : quickCheck(form.rest));
  }
}

/** One for each form that may hold itself, or there would be no end to them. */
const lazyChecks = new WeakMap<Form, QuickCheck>();

/** How often what holds itself is gone into, so that the stack holds. */
const deepest = 16;

function lazyCheck(getter: () => Form): QuickCheck {
  let made: QuickCheck | undefined;
  let depth = 0;
  return (value) => {
    made ??= quickCheck(getter());
    if (depth === deepest) return false;
    depth += 1;
    const holds = made(value);
    depth -= 1;
    return holds;
  };
}

/** Makes nothing on its way, as `some` would: unions are among what is checked most. */
function isAny(checks: readonly QuickCheck[], value: unknown): boolean {
  for (let at = 0; at < checks.length; at += 1) if (checks[at]?.(value) === true) return true;
  return false;
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
    // Not `for … in`, which asks an object of thousands of keys for each of them whether it is still there.
    const names = Object.keys(value);
    for (let at = 0; at < names.length; at += 1) {
      const name = names[at] ?? "";
      if (!key(name) || !each(value[name])) return false;
    }
    return true;
  };
}

function objectCheck(entries: Entries, others: QuickCheck): QuickCheck {
  const fields = new Map(
    Object.entries(entries).map(([key, form]) => [key, { check: quickCheck(form), counts: isOptional(form) ? 0 : 1 }]),
  );
  const required = [...fields.values()].reduce((sum, { counts }) => sum + counts, 0);
  return (value) => {
    if (!isPlain(value)) return false;
    let missing = required;
    for (const key in value) {
      const field = fields.get(key);
      if (field === undefined) {
        if (!others(value[key])) return false;
      } else if (field.check(value[key])) missing -= field.counts;
      else return false;
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
