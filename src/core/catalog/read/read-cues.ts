import { componentsOf } from "../../base/components.ts";
import { getOrInsert } from "../../base/get-or-insert.ts";
import type { Cue, CueAction } from "../model/cue.ts";
import type { CueSource } from "../schema/cue-schema.ts";
import type { Findings, IdNoun, Known } from "./findings.ts";
import { readCondition } from "./read-condition.ts";
import type { Reader } from "./reader.ts";
import { reportUnknownIds } from "./report-unknown-ids.ts";
import type { Entry } from "./source.ts";

/** Reads cues, by the word they follow on. Reports ids that stand twice or name nothing, and words that raise themselves. */
export function readCues(reader: Reader): ReadonlyMap<string, readonly Cue[]> {
  const { cues } = reader.sources;
  const words = new Set(cues.map(({ value }) => value.on));
  const ids = new Map<string, Entry<CueSource>>();
  const byWord = new Map<string, Cue[]>();
  for (const [number, entry] of cues.entries()) {
    const { id } = entry.value;
    const first = id === undefined ? undefined : ids.get(id);
    if (first !== undefined) {
      const place = { pointer: first.pointer, file: first.file };
      reader.findings.report(entry, ["id"], "duplicate-cue", { id: id ?? "", ...place });
    } else if (id !== undefined) ids.set(id, entry);
    getOrInsert(byWord, entry.value.on, () => []).push(readCue(entry, number, words, reader));
  }
  reportCircles(cues, reader.findings);
  return byWord;
}

function readCue(entry: Entry<CueSource>, number: number, words: Known, reader: Reader): Cue {
  const { value, file, pointer } = entry;
  const { id, on, when, requires = {}, times = "any", cooldown = 0, grace = 0, message } = value;
  const { known, findings } = reader;
  const condition = when === undefined ? undefined : readCondition(entry, ["when"], when, reader);
  for (const stat of Object.keys(requires)) findings.known(entry, ["requires", stat], "stat", stat, known.stat);
  return {
    number,
    id,
    place: { file, pointer },
    on,
    payload: value.if ?? {},
    when: condition,
    requires,
    does: readActions(entry, words, reader),
    times: times === "any" ? Number.POSITIVE_INFINITY : times,
    cooldown,
    grace,
    message,
  };
}

function readActions(entry: Entry<CueSource>, words: Known, reader: Reader): readonly CueAction[] {
  const { known, sources, findings } = reader;
  // What no edit does, a cue does by itself.
  const nouns: readonly (readonly [string, IdNoun, Known])[] = [
    ["give", "part", known.part],
    ["undress", "outfit", known.outfit],
    ["form", "form", sources.forms],
    ["raise", "cue", words],
  ];
  for (const [number, action] of entry.value.do.entries()) {
    reportUnknownIds(entry, ["do", number], action, reader);
    for (const [key, noun, all] of nouns) {
      const id = (action as Readonly<Record<string, unknown>>)[key];
      if (typeof id === "string") findings.known(entry, ["do", number, key], noun, id, all);
    }
  }
  return entry.value.do as readonly CueAction[];
}

function reportCircles(cues: readonly Entry<CueSource>[], findings: Findings): void {
  const raised = new Map<string, Set<string>>();
  for (const { value } of cues) {
    const next = getOrInsert(raised, value.on, () => new Set());
    for (const action of value.do) if ("raise" in action) next.add(action.raise);
  }
  const components = componentsOf(raised);
  for (const entry of cues) {
    const { on } = entry.value;
    for (const [number, action] of entry.value.do.entries()) {
      if (!("raise" in action) || components.get(action.raise) !== components.get(on)) continue;
      findings.report(entry, ["do", number, "raise"], "cues-in-circle", { word: on, raised: action.raise });
    }
  }
}
