import type { Creation, Names } from "../model/creation.ts";
import type { CreationSource, NamesSource } from "../schema/creation-schema.ts";
import { readStep } from "./read-step.ts";
import type { Reader } from "./reader.ts";
import type { Entry } from "./source.ts";

/** Reads a creation flow. Reports ids that name nothing. */
export function readCreation(entry: Entry<CreationSource>, reader: Reader): Creation {
  const { start, steps } = entry.value;
  const { findings } = reader;
  const all = new Map(Object.entries(steps));
  findings.known(entry, ["start"], "step", start, all);
  const read = [...all.keys()].map((id) => [id, readStep(entry, id, all, reader)] as const);
  return { start, steps: new Map(read) };
}

/** Reads the section of names. */
export function readNames({ value: { longest, first = [], middle = [], last = [] } }: Entry<NamesSource>): Names {
  return { longest, first, middle, last };
}
