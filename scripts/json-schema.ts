import type { Bound, Form } from "../src/core/base/schema/forms.ts";

type Json = Readonly<Record<string, unknown>>;

/**
 * Writes a form as JSON Schema (draft 2020-12).
 *
 * @param names - forms that are written once, by name, and referred to: those that hold themselves have to be.
 */
export function jsonSchema(form: Form, names: ReadonlyMap<Form, string>): Json {
  const definitions = [...names].map(([each, name]) => [name, written(each, names, each)] as const);
  return { ...written(form, names), $defs: Object.fromEntries(definitions) };
}

function written(form: Form, names: ReadonlyMap<Form, string>, itself?: Form): Json {
  const name = form === itself ? undefined : names.get(form);
  if (name !== undefined) return { $ref: `#/$defs/${name}` };
  return Object.assign(
    shapeOf(form, (inner) => written(inner, names)),
    ...(form.bounds ?? []).map((bound) => boundOf(bound, form)),
  );
}

function shapeOf(form: Form, inner: (form: Form) => Json): Json {
  switch (form.type) {
    case "string":
    case "number":
    case "boolean":
      return { type: form.type };
    case "unknown":
      return {};
    case "literal":
      return { const: form.literal };
    case "picklist":
      return { enum: form.options };
    case "optional":
      return inner(form.wrapped);
    case "nullable":
      return { anyOf: [inner(form.wrapped), { type: "null" }] };
    case "union":
      return { anyOf: form.options.map(inner) };
    case "lazy":
      return inner(form.getter());
    case "array":
      return { type: "array", items: inner(form.item) };
    case "tuple":
      return { type: "array", prefixItems: form.items.map(inner), minItems: form.items.length, items: false };
    case "record":
      return { type: "object", propertyNames: inner(form.key), additionalProperties: inner(form.value) };
    case "object": {
      const entries = Object.entries(form.entries);
      return {
        type: "object",
        properties: Object.fromEntries(entries.map(([key, each]) => [key, inner(each)])),
        required: entries.flatMap(([key, { type }]) => (type === "optional" ? [] : [key])),
        additionalProperties: form.rest === undefined ? false : inner(form.rest),
      };
    }
  }
}

function boundOf(bound: Bound, { type }: Form): Json {
  switch (bound.type) {
    case "min":
      return { minimum: bound.limit };
    case "max":
      return { maximum: bound.limit };
    case "above":
      return { exclusiveMinimum: bound.limit };
    case "min-length":
      return { [type === "array" ? "minItems" : "minLength"]: bound.limit };
    case "max-length":
      return { [type === "array" ? "maxItems" : "maxLength"]: bound.limit };
    case "pattern":
      return { pattern: bound.pattern.source };
    case "whole":
      return { type: "integer", minimum: Number.MIN_SAFE_INTEGER, maximum: Number.MAX_SAFE_INTEGER };
  }
}
