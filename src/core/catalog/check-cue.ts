import { checkCondition, type KnownIds } from "./check-rule.ts";
import type { CueSource } from "./cue-schema.ts";
import type { Findings, Known } from "./findings.ts";
import { readCondition } from "./pattern.ts";
import type { Entry, Sources } from "./source.ts";

/** Finds ids of cues that name nothing, and words that raise themselves. */
export function checkCues(sources: Sources, known: KnownIds, findings: Findings): void {
  const ids = new Map<string, Entry<CueSource>>();
  for (const entry of sources.cues) {
    const { id, when, needs = {} } = entry.value;
    const first = id === undefined ? undefined : ids.get(id);
    if (first !== undefined) {
      const because = `"${id}" is the id of the cue at ${first.pointer} in ${first.file}, too.`;
      findings.report(entry, ["id"], "duplicate-id", because, "Rename one of the two, or remove it.");
    } else if (id !== undefined) ids.set(id, entry);
    if (when !== undefined) checkCondition(entry, ["when"], readCondition(when), known, findings);
    for (const stat of Object.keys(needs)) findings.known(entry, ["needs", stat], "stat", stat, known.stat);
    checkActions(entry, sources, known, findings);
  }
  checkCircles(sources, findings);
}

function checkActions(entry: Entry<CueSource>, sources: Sources, known: KnownIds, findings: Findings): void {
  const words = new Map(sources.cues.map(({ value }) => [value.on, value]));
  const nouns: readonly (readonly [string, string, Known])[] = [
    ["wear", "part", known.part],
    ["give", "part", known.part],
    ["in", "slot", known.slot],
    ["remove", "slot", known.slot],
    ["dress", "outfit", known.outfit],
    ["undress", "outfit", known.outfit],
    ["body", "body", known.body],
    ["paint", "channel", sources.channels],
    ["form", "form", sources.forms],
    ["raise", "cue", words],
  ];
  for (const [number, action] of entry.value.do.entries()) {
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
  for (const entry of sources.cues) {
    for (const [number, action] of entry.value.do.entries()) {
      if (!("raise" in action) || !leadsTo(action.raise, entry.value.on, raised)) continue;
      const because = `"${entry.value.on}" raises "${action.raise}", which leads back to it.`;
      findings.report(entry, ["do", number, "raise"], "cues-in-circle", because, "Let one of them raise nothing.");
    }
  }
}

function leadsTo(from: string, to: string, raised: ReadonlyMap<string, ReadonlySet<string>>): boolean {
  const seen = new Set<string>();
  const open = [from];
  for (let word = open.pop(); word !== undefined; word = open.pop()) {
    if (word === to) return true;
    if (seen.has(word)) continue;
    seen.add(word);
    open.push(...(raised.get(word) ?? []));
  }
  return false;
}
