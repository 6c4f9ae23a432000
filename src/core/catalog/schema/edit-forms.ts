import * as v from "valibot";
import type { Edits, Verb } from "../model/edit.ts";
import { type EditValue, shapeOf } from "../model/edit-shapes.ts";
import { id } from "./schema-forms.ts";

/** The form of an edit that an author writes, made of the shape that all edits of its verb have. */
export function editForm<V extends Exclude<Verb, "resemble" | "together">>(verb: V): v.GenericSchema<Edits[V]> {
  const entries = shapeOf(verb).map(({ key, holds, isOptional }) => {
    const form = valueForm(holds);
    return [key, isOptional ? v.optional(form) : form] as const;
  });
  return v.strictObject(Object.fromEntries(entries)) as unknown as v.GenericSchema<Edits[V]>;
}

function valueForm(holds: EditValue): v.GenericSchema {
  switch (holds) {
    case "name":
    case "text":
      return v.string();
    case "text or null":
      return v.nullable(v.string());
    case "count":
      return v.number();
    case "step":
      return v.union([v.literal(1), v.literal(-1)]);
    case "true":
      return v.literal(true);
    default:
      return id;
  }
}
