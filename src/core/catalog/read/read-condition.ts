import { conditionKinds, kindOfCondition } from "../conditions/condition-kinds.ts";
import type { Condition, Pattern, PlainCondition } from "../model/catalog.ts";
import type { ConditionSource } from "../schema/schema-forms.ts";
import type { Reader } from "./reader.ts";
import type { Entry } from "./source.ts";

type Keys = readonly (string | number)[];

/** Reads a condition: in one word, or `any`, `all` and `not` over conditions. Reports ids that name nothing. */
export function readCondition(entry: Entry<unknown>, keys: Keys, source: ConditionSource, reader: Reader): Condition {
  if (typeof source === "string") return readPlain(entry, keys, source, reader);
  const each = (key: "any" | "all", of: readonly ConditionSource[]) =>
    of.map((inner, at) => readCondition(entry, [...keys, key, at], inner, reader));
  if ("any" in source) return { kind: "any", of: each("any", source.any) };
  if ("all" in source) return { kind: "all", of: each("all", source.all) };
  return { kind: "not", of: readCondition(entry, [...keys, "not"], source.not, reader) };
}

/** Reads a pattern such as `"tag:brimmed"`. Reports an id that names nothing. */
export function readPattern(entry: Entry<unknown>, keys: Keys, source: string, reader: Reader): Pattern {
  return readPlain(entry, keys, source, reader) as Pattern;
}

function readPlain(entry: Entry<unknown>, keys: Keys, source: string, { known, findings }: Reader): PlainCondition {
  const at = source.indexOf(":");
  const kind = source.slice(0, at) as PlainCondition["kind"];
  const [id = "", ...value] = source.slice(at + 1).split("=");
  const condition = (
    conditionKinds[kind].value === "never"
      ? { kind, id }
      : { kind, id, value: value.length === 0 ? undefined : value.join("=") }
  ) as PlainCondition;
  const noun = kindOfCondition(condition).names;
  if (noun !== undefined) findings.known(entry, keys, noun, id, known[noun]);
  return condition;
}
