import type { Pattern } from "./catalog.ts";

/** Reads a pattern such as `"tag:brimmed"`; its form has been checked by the schema. */
export function readPattern(source: string): Pattern {
  const [kind, id = ""] = source.split(":");
  if (kind !== "part" && kind !== "tag" && kind !== "slot") throw new TypeError(`"${source}" is not a pattern`);
  return { kind, id };
}
