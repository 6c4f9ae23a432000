import * as f from "../../base/schema/forms.ts";
import type { Edits, Verb } from "../model/edit.ts";
import { type EditValue, shapeOf } from "../model/edit-shapes.ts";
import { id } from "./schema-forms.ts";

/** The form of an edit that an author writes, made of the shape that all edits of its verb have. */
export function editForm<V extends Exclude<Verb, "appearance" | "together">>(verb: V): f.Form<Edits[V]> {
  const entries = shapeOf(verb).map(({ key, holds, isOptional }) => {
    const form = valueForm(holds);
    return [key, isOptional ? f.optional(form) : form] as const;
  });
  return f.object(Object.fromEntries(entries)) as f.Form<Edits[V]>;
}

function valueForm(holds: EditValue): f.Form {
  switch (holds) {
    case "name":
    case "text":
      return f.string();
    case "text or null":
      return f.nullable(f.string());
    case "count":
      return f.number();
    case "step":
      return f.union([f.literal(1), f.literal(-1)]);
    case "true":
      return f.literal(true);
    default:
      return id;
  }
}
