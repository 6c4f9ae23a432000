import type * as z from "zod/mini";
import { recall } from "../recall.ts";

/** Whether a value has a form, and nothing about why not. */
export type QuickCheck = (value: unknown) => boolean;

/**
 * Makes a check of plain data from a schema: many times as quick as asking the schema library, which can say what is wrong.
 *
 * It may only be stricter than the schema: where it says no, the schema library is asked, and its answer counts. The kinds of schema
 * that the catalog is written with are known here.
 *
 * @throws Error for any other kind, so that a new one is not passed over.
 */
export function quickCheck(schema: z.core.$ZodType): QuickCheck {
  const { def } = (schema as z.core.$ZodTypes)._zod;
  switch (def.type) {
    case "string":
      return withBounds(def, (value) => typeof value === "string");
    case "number":
      return withBounds(def, "format" in def ? Number.isSafeInteger : Number.isFinite);
    case "boolean":
      return (value) => typeof value === "boolean";
    case "literal":
      return oneOf(def.values);
    case "enum":
      return oneOf(Object.values(def.entries));
    case "optional": {
      const inner = quickCheck(def.innerType);
      // A key that may be left out, and may not be there without a value.
      return schema._zod.traits.has("$ZodExactOptional") ? inner : orElse(undefined, inner);
    }
    case "nullable":
      return orElse(null, quickCheck(def.innerType));
    case "union": {
      const options = def.options.map(quickCheck);
      return (value) => options.some((check) => check(value));
    }
    case "lazy":
      return recall(lazyChecks, schema, () => lazyCheck(def.getter));
    case "array": {
      const element = quickCheck(def.element);
      return withBounds(def, (value) => Array.isArray(value) && isEvery(value, element));
    }
    case "tuple": {
      const items = def.items.map(quickCheck);
      return (value) =>
        Array.isArray(value) && value.length === items.length && items.every((check, at) => check(value[at]));
    }
    case "record":
      return recordCheck(quickCheck(def.keyType), quickCheck(def.valueType));
    case "object":
      return objectCheck(def);
    default:
      throw new Error(`A schema of type "${def.type}" has no quick check`);
  }
}

/** One for each schema that may hold itself, or there would be no end to them. */
const lazyChecks = new WeakMap<z.core.$ZodType, QuickCheck>();

/** How often what holds itself is gone into, so that the stack holds. */
const deepest = 16;

function lazyCheck(getter: () => z.core.$ZodType): QuickCheck {
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

function oneOf(values: readonly unknown[]): QuickCheck {
  return (value) => values.includes(value);
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

function objectCheck({ shape, catchall }: z.core.$ZodObjectDef): QuickCheck {
  const checks = new Map(Object.entries(shape).map(([key, schema]) => [key, quickCheck(schema)]));
  const required = new Set(Object.keys(shape).filter((key) => shape[key]?._zod.def.type !== "optional"));
  const others = catchall === undefined || catchall._zod.def.type === "never" ? () => false : quickCheck(catchall);
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

function withBounds({ checks = [] }: z.core.$ZodTypeDef, check: QuickCheck): QuickCheck {
  return checks.reduce<QuickCheck>((inner, bound) => {
    const holds = boundCheck((bound as z.core.$ZodChecks)._zod.def);
    return (value) => inner(value) && holds(value);
  }, check);
}

/** A check of what has the right type already. */
function boundCheck(def: z.core.$ZodChecks["_zod"]["def"]): QuickCheck {
  switch (def.check) {
    case "greater_than":
      return (value) => (def.inclusive ? Number(value) >= Number(def.value) : Number(value) > Number(def.value));
    case "less_than":
      return (value) => (def.inclusive ? Number(value) <= Number(def.value) : Number(value) < Number(def.value));
    case "min_length":
      return (value) => (value as string | readonly unknown[]).length >= def.minimum;
    case "max_length":
      return (value) => (value as string | readonly unknown[]).length <= def.maximum;
    case "string_format": {
      const { pattern } = def;
      if (pattern !== undefined) return (value) => pattern.test(String(value));
    }
  }
  throw new Error(`A check "${def.check}" has no quick check`);
}

/** Plain data only: whatever else it is, the schema library is asked. */
function isPlain(value: unknown): value is Readonly<Record<string, unknown>> {
  return typeof value === "object" && value !== null && Object.getPrototypeOf(value) === Object.prototype;
}
