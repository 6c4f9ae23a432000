import { getOrInsert } from "../../base/get-or-insert.ts";
import type { Cue, CueAction } from "../model/cue.ts";
import { readCondition } from "../read/pattern.ts";
import type { Entry } from "../read/source.ts";
import type { CueSource } from "../schema/cue-schema.ts";

/** Compiles checked cues, by the word they follow on. */
export function compileCues(sources: readonly Entry<CueSource>[]): ReadonlyMap<string, readonly Cue[]> {
  const byWord = new Map<string, Cue[]>();
  for (const [number, { value, file, pointer }] of sources.entries()) {
    const { times = "any" } = value;
    getOrInsert(byWord, value.on, () => []).push({
      number,
      id: value.id,
      place: { file, pointer },
      on: value.on,
      payload: value.if ?? {},
      when: value.when === undefined ? undefined : readCondition(value.when),
      requires: value.requires ?? {},
      does: value.do as readonly CueAction[],
      times: times === "any" ? Number.POSITIVE_INFINITY : times,
      cooldown: value.cooldown ?? 0,
      grace: value.grace ?? 0,
      say: value.say,
    });
  }
  return byWord;
}
