import type { Condition, Pattern } from "../model/catalog.ts";
import type { ConditionSource } from "../schema/schema-forms.ts";

/** Reads a pattern such as `"tag:brimmed"`; its form has been checked by the schema. */
export function readPattern(source: string): Pattern {
  const [kind, id = ""] = source.split(":");
  return { kind: kind as Pattern["kind"], id };
}

/** Reads a condition: a pattern, or `any`, `all` and `not` over conditions; its form has been checked by the schema. */
export function readCondition(source: ConditionSource): Condition {
  if (typeof source !== "string") {
    if ("any" in source) return { kind: "any", of: source.any.map(readCondition) };
    if ("all" in source) return { kind: "all", of: source.all.map(readCondition) };
    return { kind: "not", of: readCondition(source.not) };
  }
  if (source.startsWith("fact:") || source.startsWith("signal:")) {
    const [id = "", ...value] = source.slice(source.indexOf(":") + 1).split("=");
    if (source.startsWith("fact:")) return { kind: "fact", id, value: value.join("=") };
    return { kind: "signal", id, value: value.length === 0 ? undefined : value.join("=") };
  }
  const [kind, id = ""] = source.split(":");
  return kind === "body" || kind === "outfit" ? { kind, id } : readPattern(source);
}
