import { type Text, titleFromId } from "../../base/text.ts";
import type { Asked, FactAnswer, Step, Transition } from "../model/creation.ts";
import type { CreationSource, StepSource } from "../schema/creation-schema.ts";
import type { Known } from "./findings.ts";
import { readCondition } from "./read-condition.ts";
import { slotsOf } from "./read-slot.ts";
import type { Reader } from "./reader.ts";
import { reportUnknownIds } from "./report-unknown-ids.ts";
import type { Entry, Sources } from "./source.ts";

/** A step, and where it is written. */
interface StepPlace {
  readonly entry: Entry<CreationSource>;
  readonly keys: readonly string[];
  readonly step: StepSource;
}

/** Reads a step. Reports keys that do not go together, ids that name nothing, and questions without answers. */
export function readStep(entry: Entry<CreationSource>, id: string, steps: Known, reader: Reader): Step {
  const step = entry.value.steps[id] as StepSource;
  const keys = ["steps", id];
  const place = { entry, keys, step };
  return {
    id,
    title: step.title ?? titleOfAsked(step, reader) ?? titleFromId(id),
    say: step.say,
    asks: isWellAsked(place, reader) ? readAsked(place, reader) : { kind: "name" },
    when: step.if === undefined ? undefined : readCondition(entry, [...keys, "if"], step.if, reader),
    confirms: step.confirm ?? false,
    canWait: step.later ?? false,
    next: readTransitions(place, steps, reader),
  };
}

/** What the slot or the channel is called that a step asks for. */
function titleOfAsked({ slot, channel }: StepSource, { sources }: Reader): Text | undefined {
  return sources.slots.get(slot ?? "")?.value.title ?? sources.channels.get(channel ?? "")?.value.title;
}

/** The ways on from a step, in their order. */
function readTransitions(
  { entry, keys, step: { next = [] } }: StepPlace,
  steps: Known,
  reader: Reader,
): readonly Transition[] {
  const { findings } = reader;
  return [next].flat().map((transition, number) => {
    const at = typeof next === "string" ? [...keys, "next"] : [...keys, "next", number];
    if (typeof transition === "string") {
      findings.known(entry, at, "step", transition, steps);
      return { when: undefined, go: transition };
    }
    findings.known(entry, [...at, "go"], "step", transition.go, steps);
    return { when: readCondition(entry, [...at, "if"], transition.if, reader), go: transition.go };
  });
}

/** Which keys belong to what a step asks, besides those that every step may have. */
const keysOf: Readonly<Record<StepSource["ask"], readonly (keyof StepSource)[]>> = {
  body: ["from"],
  part: ["slot", "from", "bare"],
  color: ["channel", "from"],
  outfit: ["from"],
  preset: ["from"],
  name: [],
  fact: ["fact", "from"],
};

const keysOfAny: readonly (keyof StepSource)[] = ["title", "say", "ask", "if", "confirm", "later", "next"];

/** Whether a step has the keys of what it asks; reports it where not. */
function isWellAsked({ entry, keys, step }: StepPlace, { findings }: Reader): boolean {
  const { ask, from } = step;
  const own = keysOf[ask];
  for (const key of Object.keys(step) as (keyof StepSource)[]) {
    if (keysOfAny.includes(key) || own.includes(key)) continue;
    findings.report(entry, [...keys, key], "step-of-two-kinds", { key, ask });
  }
  const lacking = own.find((key) => (key === "slot" || key === "channel" || key === "fact") && step[key] === undefined);
  if (lacking !== undefined) {
    findings.report(entry, keys, "step-without-key", { ask, key: lacking });
    return false;
  }
  const isMap = from !== undefined && !Array.isArray(from);
  if (isMap === (ask === "fact")) return true;
  if (ask === "fact") findings.report(entry, [...keys, "from"], "answers-not-a-map");
  else findings.report(entry, [...keys, "from"], "offer-not-a-list", { ask });
  return false;
}

function readAsked(place: StepPlace, reader: Reader): Asked {
  const { entry, keys, step } = place;
  const { ask, slot = "", channel = "", fact = "" } = step;
  const { sources, findings } = reader;
  switch (ask) {
    case "body":
      return { kind: ask, from: readOffer(place, sources.bodies, reader) };
    case "outfit":
      return { kind: ask, from: notEmpty(readOffer(place, sources.outfits, reader), place, reader) };
    case "preset":
      return { kind: ask, from: notEmpty(readOffer(place, sources.presets, reader), place, reader) };
    case "color": {
      const ramps = new Set(sources.channels.get(channel)?.value.ramps);
      const isKnown = findings.known(entry, [...keys, "channel"], "channel", channel, sources.channels);
      return { kind: ask, channel, from: isKnown ? readOffer(place, ramps, reader) : [] };
    }
    case "part": {
      const bare = step.bare ?? sources.slots.get(slot)?.value.required !== true;
      const isKnown = findings.known(entry, [...keys, "slot"], "slot", slot, sources.slots);
      const from = isKnown ? notEmpty(offeredParts(step, sources), place, reader) : [];
      return { kind: ask, slot, from, bare };
    }
    case "fact":
      return { kind: ask, fact, from: readAnswers(place, fact, reader) };
    case "name":
      return { kind: ask };
  }
}

/** What a step lists of what there is; all of it where it lists nothing. */
function readOffer(
  { entry, keys, step: { ask, from } }: StepPlace,
  all: Known,
  { findings }: Reader,
): readonly string[] {
  if (!Array.isArray(from)) return [...all.keys()];
  const noun = ask === "color" ? "ramp" : (ask as "body" | "outfit" | "preset");
  for (const [number, id] of from.entries()) findings.known(entry, [...keys, "from", number], noun, id, all);
  return from;
}

/** Reports that there is nothing to choose. */
function notEmpty(offer: readonly string[], { entry, keys, step }: StepPlace, { findings }: Reader): readonly string[] {
  const ask = step.ask as "part" | "outfit" | "preset";
  if (offer.length === 0) findings.report(entry, [...keys, "from"], "step-offers-nothing", { ask });
  return offer;
}

/** The parts a step offers: those of its slot that one of its patterns names. */
function offeredParts({ slot = "", from }: StepSource, sources: Sources): readonly string[] {
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

/** The answers to a question of the game's own, and what they do. */
function readAnswers({ entry, keys, step: { from } }: StepPlace, fact: string, reader: Reader): readonly FactAnswer[] {
  const answers = Object.entries(from === undefined || Array.isArray(from) ? {} : from);
  if (answers.length === 0) reader.findings.report(entry, [...keys, "from"], "question-without-answers", { fact });
  return answers.map(([id, { title = titleFromId(id), say, do: does = [] }]) => {
    for (const [number, edit] of does.entries())
      reportUnknownIds(entry, [...keys, "from", id, "do", number], edit, reader);
    return { id, title, say, does };
  });
}
