import { compileCreation, compilePreset, offeredParts } from "../compile/compile-creation.ts";
import { listPaths } from "../list-paths.ts";
import type { CreationSource, PresetSource, StepSource } from "../schema/creation-schema.ts";
import { checkCondition, type KnownIds } from "./check-condition.ts";
import { checkEdit } from "./check-edit.ts";
import { checkOutfit } from "./check-outfit.ts";
import type { Findings } from "./findings.ts";
import { readCondition } from "./pattern.ts";
import type { Entry, Sources } from "./source.ts";

/** Finds what is wrong with a preset: ids that name nothing, parts that take one another's place or do not fit its body. */
export function checkPreset(entry: Entry<PresetSource>, sources: Sources, findings: Findings): void {
  const { body, parts } = entry.value;
  checkOutfit(entry, sources, findings);
  if (!findings.known(entry, ["body"], "body", body, sources.bodies)) return;
  for (const [number, id] of parts.entries()) {
    const fits = sources.parts.get(id)?.value.fits;
    if (fits === undefined || fits.includes(body)) continue;
    findings.report(entry, ["parts", number], "preset-does-not-fit", { part: id, body });
  }
}

/** Finds what is wrong with a creation flow: ids that name nothing, steps nobody is asked, and steps nobody can leave. */
export function checkCreation(
  entry: Entry<CreationSource>,
  sources: Sources,
  known: KnownIds,
  findings: Findings,
): void {
  const { start, steps } = entry.value;
  const all = new Map(Object.entries(steps));
  const before = findings.problems.length;
  findings.known(entry, ["start"], "step", start, all);
  for (const [id, step] of all) {
    const keys = ["steps", id];
    checkAsked({ entry, keys, step, sources, findings });
    if (step.if !== undefined) checkCondition(entry, [...keys, "if"], readCondition(step.if), known, findings);
    for (const [number, turn] of [step.next ?? []].flat().entries()) {
      const at = typeof step.next === "string" ? [...keys, "next"] : [...keys, "next", number];
      if (typeof turn === "string") findings.known(entry, at, "step", turn, all);
      else {
        findings.known(entry, [...at, "go"], "step", turn.go, all);
        checkCondition(entry, [...at, "if"], readCondition(turn.if), known, findings);
      }
    }
  }
  if (findings.problems.length === before) checkPaths(entry, sources, findings);
}

function checkPaths(entry: Entry<CreationSource>, sources: Sources, findings: Findings): void {
  const presets = [...sources.presets].map(([id, { value }]) => [id, compilePreset(id, value, sources)] as const);
  const creation = compileCreation(entry.value, sources);
  const { paths, circles, complete } = listPaths({ creation, presets: new Map(presets) });
  for (const circle of circles) {
    const [step = ""] = circle;
    findings.report(entry, ["steps", circle.at(-1) ?? "", "next"], "steps-in-circle", { steps: circle, step });
  }
  if (!complete || circles.length > 0) return;
  const reached = new Set(paths.flat());
  for (const id of Object.keys(entry.value.steps)) {
    if (reached.has(id)) continue;
    findings.warn(entry, ["steps", id], "step-unreachable", { step: id });
  }
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

/** A step, and what is needed to check it. */
interface Asked {
  readonly entry: Entry<CreationSource>;
  readonly keys: readonly string[];
  readonly step: StepSource;
  readonly sources: Sources;
  readonly findings: Findings;
}

function checkAsked(asked: Asked): void {
  const { entry, keys, step, sources, findings } = asked;
  const { ask, slot, channel, from } = step;
  const own = keysOf[ask];
  for (const key of Object.keys(step) as (keyof StepSource)[]) {
    if (keysOfAny.includes(key) || own.includes(key)) continue;
    findings.report(entry, [...keys, key], "step-of-two-kinds", { key, ask });
  }
  const lacking = own.find((key) => (key === "slot" || key === "channel" || key === "fact") && step[key] === undefined);
  if (lacking !== undefined) {
    findings.report(entry, keys, "step-without-key", { ask, key: lacking });
    return;
  }
  const isMap = from !== undefined && !Array.isArray(from);
  if (isMap !== (ask === "fact")) {
    if (ask === "fact") findings.report(entry, [...keys, "from"], "answers-not-a-map");
    else findings.report(entry, [...keys, "from"], "offer-not-a-list", { ask });
    return;
  }
  if (slot !== undefined && !findings.known(entry, [...keys, "slot"], "slot", slot, sources.slots)) return;
  if (channel !== undefined && !findings.known(entry, [...keys, "channel"], "channel", channel, sources.channels))
    return;
  const all = { body: sources.bodies, outfit: sources.outfits, preset: sources.presets };
  for (const [number, id] of (Array.isArray(from) ? from : []).entries()) {
    const at = [...keys, "from", number];
    if (ask === "color")
      findings.known(entry, at, "ramp", id, new Set(sources.channels.get(channel ?? "")?.value.ramps));
    else if (ask === "body" || ask === "outfit" || ask === "preset") findings.known(entry, at, ask, id, all[ask]);
  }
  if (ask === "fact") checkAnswers(asked);
  checkOffers(asked);
}

/** Checks that there is something to choose. */
function checkOffers({ entry, keys, step, sources, findings }: Asked): void {
  const counts = { outfit: sources.outfits.size, preset: sources.presets.size, part: 0 };
  if (step.ask === "part") counts.part = offeredParts(step, sources).length;
  if (step.ask !== "part" && step.ask !== "outfit" && step.ask !== "preset") return;
  if (counts[step.ask] > 0) return;
  findings.report(entry, [...keys, "from"], "step-offers-nothing", { ask: step.ask });
}

/** Checks what the answers of a question of the game's own do. */
function checkAnswers({ entry, keys, step: { from = {}, fact = "" }, sources, findings }: Asked): void {
  const answers = Object.entries(from);
  if (answers.length === 0) {
    findings.report(entry, [...keys, "from"], "question-without-answers", { fact });
  }
  for (const [id, answer] of answers) {
    const edits = typeof answer === "object" && "do" in answer ? (answer.do ?? []) : [];
    for (const [number, edit] of edits.entries()) {
      const at = [...keys, "from", id, "do", number];
      checkEdit(entry, at, edit, sources, findings);
    }
  }
}
