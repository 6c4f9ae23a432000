import { conditionKinds } from "../conditions/condition-kinds.ts";
import type { Condition, Pattern, PlainCondition } from "../model/catalog.ts";
import type { ConditionSource } from "../schema/schema-forms.ts";

/** Reads a pattern such as `"tag:brimmed"`; its form has been checked by the schema. */
export function readPattern(source: string): Pattern {
  return readPlain(source) as Pattern;
}

/** Reads a condition: in one word, or `any`, `all` and `not` over conditions; its form has been checked by the schema. */
export function readCondition(source: ConditionSource): Condition {
  if (typeof source === "string") return readPlain(source);
  if ("any" in source) return { kind: "any", of: source.any.map(readCondition) };
  if ("all" in source) return { kind: "all", of: source.all.map(readCondition) };
  return { kind: "not", of: readCondition(source.not) };
}

function readPlain(source: string): PlainCondition {
  const at = source.indexOf(":");
  const kind = source.slice(0, at) as PlainCondition["kind"];
  const [id = "", ...value] = source.slice(at + 1).split("=");
  if (conditionKinds[kind].value === "never") return { kind, id } as PlainCondition;
  return { kind, id, value: value.length === 0 ? undefined : value.join("=") } as PlainCondition;
}
