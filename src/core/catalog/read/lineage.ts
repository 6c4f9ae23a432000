import { limits } from "../../base/limits.ts";
import type { BodySource } from "../schema/schema.ts";
import type { Entry, Sources } from "./source.ts";

/**
 * The bodies from the one named up to the one that stands on its own, nearest first. A circle is walked once, and what is longer than
 * lineages may be is not walked to its end.
 */
export function lineage(body: string, sources: Sources): readonly Entry<BodySource>[] {
  const line: Entry<BodySource>[] = [];
  for (
    let entry = sources.bodies.get(body);
    entry !== undefined && !line.includes(entry) && line.length <= limits.lineage;
  ) {
    line.push(entry);
    const base: string | undefined = entry.value.extends;
    entry = base === undefined ? undefined : sources.bodies.get(base);
  }
  return line;
}

/** Whether following `extends` from a body comes back to that body. */
export function extendsItself(body: string, sources: Sources): boolean {
  return lineage(body, sources).some(({ value }) => value.extends === body);
}

/** The value of a key in the nearest body of a lineage that has it. */
export function inherited<K extends keyof BodySource>(
  line: readonly Entry<BodySource>[],
  key: K,
): BodySource[K] | undefined {
  return line.find(({ value }) => value[key] !== undefined)?.value[key];
}

/** Whether more bodies extend one another, from a body up, than may. */
export function isLineageTooLong(body: string, sources: Sources): boolean {
  return lineage(body, sources).length > limits.lineage;
}
