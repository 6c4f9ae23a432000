import { titleFromId } from "../../base/text.ts";
import type { Asked, Creation, FactAnswer, Names, Preset, Step, Turn } from "../model/creation.ts";
import { placeParts, slotsOf } from "../read/check-outfit.ts";
import { readCondition } from "../read/pattern.ts";
import type { Sources } from "../read/source.ts";
import type { CreationSource, NamesSource, PresetSource, StepSource } from "../schema/creation-schema.ts";

/** Compiles a checked preset: each part in its slot. */
export function compilePreset(id: string, source: PresetSource, sources: Sources): Preset {
  return {
    id,
    title: source.title ?? titleFromId(id),
    say: source.say,
    body: source.body,
    loadout: placeParts(source.parts, sources),
    colors: source.colors ?? {},
    facts: source.facts ?? {},
  };
}

/** Compiles the section of names. */
export function compileNames(source: NamesSource): Names {
  const { longest, first = [], middle = [], last = [] } = source;
  return { longest, first, middle, last };
}

/** Compiles a checked creation flow: every choice listed, every way on in its order. */
export function compileCreation(source: CreationSource, sources: Sources): Creation {
  const steps = Object.entries(source.steps).map(([id, step]) => [id, compileStep(id, step, sources)] as const);
  return { start: source.start, steps: new Map(steps) };
}

function compileStep(id: string, source: StepSource, sources: Sources): Step {
  return {
    id,
    title: source.title ?? titleFromId(id),
    say: source.say,
    asks: compileAsked(source, sources),
    when: source.if === undefined ? undefined : readCondition(source.if),
    confirms: source.confirm ?? false,
    canWait: source.later ?? false,
    next: turnsOf(source),
  };
}

/** The ways on from a step, in their order. */
export function turnsOf({ next = [] }: Pick<StepSource, "next">): readonly Turn[] {
  const turns = typeof next === "string" ? [next] : next;
  return turns.map((turn) =>
    typeof turn === "string" ? { when: undefined, go: turn } : { when: readCondition(turn.if), go: turn.go },
  );
}

function compileAsked(source: StepSource, sources: Sources): Asked {
  const { slot = "", channel = "", fact = "" } = source;
  switch (source.ask) {
    case "body":
      return { kind: "body", from: listedIn(source, sources.bodies.keys()) };
    case "outfit":
      return { kind: "outfit", from: listedIn(source, sources.outfits.keys()) };
    case "preset":
      return { kind: "preset", from: listedIn(source, sources.presets.keys()) };
    case "color":
      return { kind: "color", channel, from: listedIn(source, sources.channels.get(channel)?.value.ramps ?? []) };
    case "part": {
      const bare = source.bare ?? sources.slots.get(slot)?.value.required !== true;
      return { kind: "part", slot, from: offeredParts(source, sources), bare };
    }
    case "fact":
      return { kind: "fact", fact, from: factAnswers(source) };
    case "name":
      return { kind: "name" };
  }
}

function listedIn({ from }: StepSource, all: Iterable<string>): readonly string[] {
  return Array.isArray(from) ? from : [...all];
}

/** The parts a step offers: those of its slot that one of its patterns names. */
export function offeredParts({ slot = "", from }: StepSource, sources: Sources): readonly string[] {
  const patterns = Array.isArray(from) ? from : undefined;
  return [...sources.parts.values()]
    .filter(({ value }) => slotsOf(value.slot).includes(slot))
    .filter(({ id, value }) => patterns?.some((pattern) => isNamed(pattern, id, value.tags ?? [])) ?? true)
    .map(({ id }) => id);
}

function isNamed(pattern: string, id: string, tags: readonly string[]): boolean {
  if (pattern.startsWith("tag:")) return tags.includes(pattern.slice("tag:".length));
  return pattern === id || pattern === `part:${id}`;
}

function factAnswers({ from }: StepSource): readonly FactAnswer[] {
  if (from === undefined || Array.isArray(from)) return [];
  return Object.entries(from).map(([id, { title, say, do: does = [] }]) => ({
    id,
    title: title ?? titleFromId(id),
    say,
    does,
  }));
}
