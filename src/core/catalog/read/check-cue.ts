import { componentsOf } from "../../base/components.ts";
import type { CueSource } from "../schema/cue-schema.ts";
import { checkCondition, type KnownIds } from "./check-condition.ts";
import { checkEdit } from "./check-edit.ts";
import type { Findings, IdNoun, Known } from "./findings.ts";
import { readCondition } from "./pattern.ts";
import type { Entry, Sources } from "./source.ts";

/** Finds ids of cues that name nothing, and words that raise themselves. */
export function checkCues(sources: Sources, known: KnownIds, findings: Findings): void {
  const ids = new Map<string, Entry<CueSource>>();
  const words = new Set(sources.cues.map(({ value }) => value.on));
  for (const entry of sources.cues) {
    const { id, when, requires = {} } = entry.value;
    const first = id === undefined ? undefined : ids.get(id);
    if (first !== undefined) {
      findings.report(entry, ["id"], "duplicate-cue", {
        id: first.value.id ?? "",
        pointer: first.pointer,
        file: first.file,
      });
    } else if (id !== undefined) ids.set(id, entry);
    if (when !== undefined) checkCondition(entry, ["when"], readCondition(when), known, findings);
    for (const stat of Object.keys(requires)) findings.known(entry, ["requires", stat], "stat", stat, known.stat);
    checkActions(entry, words, sources, known, findings);
  }
  checkCircles(sources, findings);
}

function checkActions(
  entry: Entry<CueSource>,
  words: Known,
  sources: Sources,
  known: KnownIds,
  findings: Findings,
): void {
  // What no edit does, a cue does by itself.
  const nouns: readonly (readonly [string, IdNoun, Known])[] = [
    ["give", "part", known.part],
    ["undress", "outfit", known.outfit],
    ["form", "form", sources.forms],
    ["raise", "cue", words],
  ];
  for (const [number, action] of entry.value.do.entries()) {
    checkEdit(entry, ["do", number], action, sources, findings);
    for (const [key, noun, all] of nouns) {
      const id = (action as Readonly<Record<string, unknown>>)[key];
      if (typeof id === "string") findings.known(entry, ["do", number, key], noun, id, all);
    }
  }
}

function checkCircles(sources: Sources, findings: Findings): void {
  const raised = new Map<string, Set<string>>();
  for (const { value } of sources.cues) {
    const next = raised.get(value.on) ?? new Set();
    for (const action of value.do) if ("raise" in action) next.add(action.raise);
    raised.set(value.on, next);
  }
  const components = componentsOf(raised);
  for (const entry of sources.cues) {
    const { on } = entry.value;
    for (const [number, action] of entry.value.do.entries()) {
      if (!("raise" in action) || components.get(action.raise) !== components.get(on)) continue;
      findings.report(entry, ["do", number, "raise"], "cues-in-circle", { word: on, raised: action.raise });
    }
  }
}
