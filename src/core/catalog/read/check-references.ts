import { limits } from "../../base/limits.ts";
import { idsForRules } from "./check-condition.ts";
import { checkCreation, checkPreset } from "./check-creation.ts";
import { checkCues } from "./check-cue.ts";
import { checkForm, checkLayer, checkRig, isPlain } from "./check-drawn.ts";
import { checkOutfit, slotsOf } from "./check-outfit.ts";
import { checkRule } from "./check-rule.ts";
import { Findings } from "./findings.ts";
import { extendsItself, inherited, isLineageTooLong, lineage } from "./lineage.ts";
import type { Sources } from "./source.ts";

/** Finds ids that name nothing, and defaults, outfits and rules that cannot mean what they say. */
export function checkReferences(sources: Sources): Findings {
  const findings = new Findings();
  for (const entry of sources.rigs.values()) checkRig(entry, sources, findings);
  for (const entry of sources.bodies.values()) checkBody(entry, sources, findings);
  for (const entry of sources.slots.values()) checkSlot(entry, sources, findings);
  for (const entry of sources.channels.values()) checkChannel(entry, sources, findings);
  for (const entry of sources.stats.values()) checkStat(entry, findings);
  for (const entry of sources.parts.values()) checkPart(entry, sources, findings);
  for (const entry of sources.outfits.values()) checkOutfit(entry, sources, findings);
  for (const entry of sources.forms.values()) checkForm(entry, sources, findings);
  const known = idsForRules(sources);
  for (const entry of sources.presets.values()) checkPreset(entry, sources, findings);
  checkCues(sources, known, findings);
  if (sources.creation !== undefined) checkCreation(sources.creation, sources, known, findings);
  for (const entry of sources.rules) checkRule(entry, known, findings);
  return findings;
}

const nothing: readonly never[] = [];

type EntryOf<K extends Exclude<keyof Sources, "rules" | "cues" | "creation" | "names">> =
  Sources[K] extends ReadonlyMap<string, infer E> ? E : never;

function checkBody(entry: EntryOf<"bodies">, sources: Sources, findings: Findings): void {
  const { extends: base, rig, artFrom, growsInto, art = [] } = entry.value;
  if (
    base !== undefined &&
    findings.known(entry, ["extends"], "body", base, sources.bodies) &&
    extendsItself(entry.id, sources)
  ) {
    findings.report(entry, ["extends"], "circular-extends", { body: entry.id, base });
    return;
  }
  if (isLineageTooLong(entry.id, sources)) {
    findings.report(entry, ["extends"], "long-lineage", { max: limits.lineage, body: entry.id });
    return;
  }
  if (rig !== undefined) findings.known(entry, ["rig"], "rig", rig, sources.rigs);
  if (inherited(lineage(entry.id, sources), "rig") === undefined) {
    findings.report(entry, [], "missing-rig", { body: entry.id });
  }
  if (artFrom !== undefined) findings.known(entry, ["artFrom"], "body", artFrom, sources.bodies);
  if (growsInto !== undefined) findings.known(entry, ["growsInto"], "body", growsInto, sources.bodies);
  for (const [number, layer] of art.entries()) checkLayer(entry, ["art", number], layer, [entry.id], sources, findings);
}

function checkSlot(entry: EntryOf<"slots">, sources: Sources, findings: Findings): void {
  const { required = false, default: initial, kind } = entry.value;
  if (initial === undefined) {
    if (required && kind === "gear") {
      findings.warn(entry, ["required"], "required-without-default", { slot: entry.id });
    }
    return;
  }
  if (!findings.known(entry, ["default"], "part", initial, sources.parts)) return;
  const part = sources.parts.get(initial)?.value;
  if (part === undefined) return;
  if (!slotsOf(part.slot).includes(entry.id)) {
    const slots = slotsOf(part.slot);
    findings.report(entry, ["default"], "default-elsewhere", { slot: entry.id, part: initial, slots });
  }
  if (required && part.fits !== undefined) {
    const left = [...sources.bodies.keys()].filter((body) => !part.fits?.includes(body));
    if (left.length > 0) {
      findings.report(entry, ["default"], "default-does-not-fit", { slot: entry.id, part: initial, bodies: left });
    }
  }
}

function checkChannel(entry: EntryOf<"channels">, sources: Sources, findings: Findings): void {
  const { ramps, default: initial } = entry.value;
  for (const [number, id] of ramps.entries()) findings.known(entry, ["ramps", number], "ramp", id, sources.ramps);
  if (!ramps.includes(initial)) {
    findings.report(entry, ["default"], "default-not-offered", { channel: entry.id, ramp: initial, ramps });
  }
}

function checkStat(entry: EntryOf<"stats">, findings: Findings): void {
  const { min, max } = entry.value;
  if (min === undefined || max === undefined || min <= max) return;
  findings.report(entry, ["min"], "empty-bounds", { stat: entry.id, min, max });
}

function checkPart(entry: EntryOf<"parts">, sources: Sources, findings: Findings): void {
  const { slot, occupies = nothing, fits = nothing, hides = nothing, layers = nothing, counterparts } = entry.value;
  const slots = slotsOf(slot);
  for (const each of slots) {
    if (!sources.slots.has(each)) findings.known(entry, ["slot"], "slot", each, sources.slots);
  }
  if (occupies.length + fits.length + hides.length > 0) checkNamed(entry, sources, findings);
  for (const body in counterparts) checkCounterpart(entry, body, counterparts[body] ?? "", sources, findings);
  for (let number = 0; number < layers.length; number += 1) {
    const layer = layers[number];
    if (layer === undefined || isPlain(layer, sources)) continue;
    checkLayer(entry, ["layers", number], layer, entry.value.fits ?? sources.bodies.keys(), sources, findings);
    if (layer.in !== undefined && !slots.includes(layer.in)) {
      findings.report(entry, ["layers", number, "in"], "layer-elsewhere", { slot: layer.in, part: entry.id, slots });
    }
  }
  const isData = slots.some((each) => sources.slots.get(each)?.value.data === true);
  if (layers.length > 0 && isData) {
    findings.warn(entry, ["layers"], "picture-in-data-slot", { part: entry.id });
  }
  if (layers.length === 0 && !isData) {
    findings.warn(entry, ["layers"], "nothing-to-show", { part: entry.id });
  }
}

/** Checks that a counterpart can be put on where the part was. */
function checkCounterpart(
  entry: EntryOf<"parts">,
  body: string,
  id: string,
  sources: Sources,
  findings: Findings,
): void {
  const keys = ["counterparts", body];
  findings.known(entry, keys, "body", body, sources.bodies);
  if (!findings.known(entry, keys, "part", id, sources.parts)) return;
  const other = sources.parts.get(id)?.value;
  if (other === undefined) return;
  const slots = slotsOf(entry.value.slot);
  if (!slots.some((slot) => slotsOf(other.slot).includes(slot))) {
    findings.report(entry, keys, "counterpart-elsewhere", { other: id, part: entry.id, slot: slots[0] ?? "" });
  }
  if (other.fits !== undefined && !other.fits.includes(body)) {
    findings.report(entry, keys, "counterpart-does-not-fit", { other: id, body });
  }
}

/** Checks the slots and bodies that a part names besides its own. */
function checkNamed(entry: EntryOf<"parts">, sources: Sources, findings: Findings): void {
  const { occupies = nothing, fits = nothing, hides = nothing } = entry.value;
  for (const [number, each] of occupies.entries())
    findings.known(entry, ["occupies", number], "slot", each, sources.slots);
  for (const [number, each] of fits.entries()) findings.known(entry, ["fits", number], "body", each, sources.bodies);
  for (const [number, each] of hides.entries())
    findings.known(entry, ["hides", number], "slot", each.split("/")[0] ?? each, sources.slots);
}
