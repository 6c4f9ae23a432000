import { listPaths } from "../list-paths.ts";
import type { Creation, Names, Preset } from "../model/creation.ts";
import type { CreationSource, NamesSource } from "../schema/creation-schema.ts";
import { readStep } from "./read-step.ts";
import type { Reader } from "./reader.ts";
import type { Entry } from "./source.ts";

/** Reads a creation flow. Reports ids that name nothing, steps nobody is asked, and steps nobody can leave. */
export function readCreation(
  entry: Entry<CreationSource>,
  presets: ReadonlyMap<string, Preset>,
  reader: Reader,
): Creation {
  const { start, steps } = entry.value;
  const { findings } = reader;
  const before = findings.problems.length;
  const all = new Map(Object.entries(steps));
  findings.known(entry, ["start"], "step", start, all);
  const read = [...all.keys()].map((id) => [id, readStep(entry, id, all, reader)] as const);
  const creation = { start, steps: new Map(read) };
  if (findings.problems.length === before) reportPaths(entry, creation, presets, reader);
  return creation;
}

function reportPaths(
  entry: Entry<CreationSource>,
  creation: Creation,
  presets: ReadonlyMap<string, Preset>,
  { findings }: Reader,
): void {
  const { paths, circles, complete } = listPaths({ creation, presets });
  for (const circle of circles) {
    const [step = ""] = circle;
    findings.report(entry, ["steps", circle.at(-1) ?? "", "next"], "steps-in-circle", { steps: circle, step });
  }
  if (!complete || circles.length > 0) return;
  const reached = new Set(paths.flat());
  for (const id of creation.steps.keys()) {
    if (!reached.has(id)) findings.warn(entry, ["steps", id], "step-unreachable", { step: id });
  }
}

/** Reads the section of names. */
export function readNames({ value: { longest, first = [], middle = [], last = [] } }: Entry<NamesSource>): Names {
  return { longest, first, middle, last };
}
