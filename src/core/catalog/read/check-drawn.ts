import type { FormSource, LayerSource, RigSource } from "../schema/schema.ts";
import { pointNames } from "./body-points.ts";
import type { Findings } from "./findings.ts";
import { inherited, lineage } from "./lineage.ts";
import type { Entry, Sources } from "./source.ts";

/** Checks what a rig names. */
export function checkRig(entry: Entry<RigSource>, sources: Sources, findings: Findings): void {
  const { facings, animations, crops = {}, twins = [] } = entry.value;
  const drawn = new Set(facings.filter((facing) => typeof facing === "string"));
  const animationIds = new Set(Object.keys(animations));
  const seen = new Set<string>();
  for (const [number, facing] of facings.entries()) {
    const id = typeof facing === "string" ? facing : facing.id;
    if (seen.has(id)) findings.report(entry, ["facings", number], "duplicate-facing", { facing: id });
    seen.add(id);
    if (typeof facing !== "string")
      findings.known(entry, ["facings", number, "mirror"], "facing", facing.mirror, drawn);
  }
  for (const [id, animation] of Object.entries(animations)) {
    if (animation.else !== undefined)
      findings.known(entry, ["animations", id, "else"], "animation", animation.else, animationIds);
  }
  const isPointed = twins.length > 0 || Object.values(crops).some(({ point }) => point !== undefined);
  const points = isPointed ? pointsOfAny(sources) : noPoints;
  for (const [number, pair] of twins.entries()) {
    for (const [side, name] of pair.entries())
      if (!points.has(name)) findings.known(entry, ["twins", number, side], "slot", name, sources.slots);
  }
  for (const [id, crop] of Object.entries(crops)) {
    findings.known(entry, ["crops", id, "animation"], "animation", crop.animation, animationIds);
    findings.known(entry, ["crops", id, "facing"], "facing", crop.facing, seen);
    if (crop.point !== undefined) findings.known(entry, ["crops", id, "point"], "point", crop.point, points);
  }
}

const noPoints: ReadonlySet<string> = new Set();

/** The names of the points that any body has. */
function pointsOfAny(sources: Sources): ReadonlySet<string> {
  return new Set([...sources.bodies.keys()].flatMap((body) => [...pointNames(body, sources)]));
}

/** Whether there is nothing in a layer that could name what does not exist. */
export function isPlain(
  {
    channel,
    animations,
    else: otherwise,
    depth,
    in: slot,
    facings,
    attach,
    offset,
    scale,
    forms,
    notForms,
  }: LayerSource,
  { channels }: Sources,
): boolean {
  if (channel !== undefined && !channels.has(channel)) return false;
  if (forms !== undefined || notForms !== undefined || offset !== undefined || scale !== undefined) return false;
  if (animations !== undefined || otherwise !== undefined || slot !== undefined) return false;
  return facings === undefined && attach === undefined && typeof depth === "number";
}

/** Checks what a layer of a body, a part or a form names. */
export function checkLayer(
  entry: Entry<unknown>,
  keys: readonly (string | number)[],
  layer: LayerSource,
  bodies: Iterable<string>,
  sources: Sources,
  findings: Findings,
): void {
  if (layer.channel !== undefined && !sources.channels.has(layer.channel))
    findings.known(entry, [...keys, "channel"], "channel", layer.channel, sources.channels);
  const worn = [...bodies];
  checkLayerBodies(entry, keys, layer, worn, sources, findings);
  for (const key of ["forms", "notForms"] as const) {
    for (const [number, form] of (layer[key] ?? []).entries())
      findings.known(entry, [...keys, key, number], "form", form, sources.forms);
  }
  const rigs = new Set(worn.map((body) => inherited(lineage(body, sources), "rig")));
  const animations = new Set<string>();
  const facings = new Set<string>();
  for (const id of rigs) {
    const rig = id === undefined ? undefined : sources.rigs.get(id)?.value;
    for (const animation of Object.keys(rig?.animations ?? {})) animations.add(animation);
    for (const facing of rig?.facings ?? []) facings.add(typeof facing === "string" ? facing : facing.id);
  }
  if (animations.size === 0) return;
  for (const [number, animation] of (layer.animations ?? []).entries()) {
    findings.known(entry, [...keys, "animations", number], "animation", animation, animations);
  }
  if (layer.facings !== undefined && layer.facings !== "any") {
    for (const [number, facing] of layer.facings.entries())
      findings.known(entry, [...keys, "facings", number], "facing", facing, facings);
  }
  for (const [from, to] of Object.entries(layer.else === false ? {} : (layer.else ?? {}))) {
    findings.known(entry, [...keys, "else", from], "animation", from, animations);
    findings.known(
      entry,
      [...keys, "else", from],
      "animation",
      to,
      layer.animations === undefined ? animations : new Set(layer.animations),
    );
  }
  if (typeof layer.depth === "number") return;
  for (const facing of Object.keys(layer.depth)) {
    if (facing !== "default") findings.known(entry, [...keys, "depth", facing], "facing", facing, facings);
  }
}

/** Checks the bodies and points that a layer names. */
function checkLayerBodies(
  entry: Entry<unknown>,
  keys: readonly (string | number)[],
  { offset, scale, attach }: LayerSource,
  bodies: readonly string[],
  sources: Sources,
  findings: Findings,
): void {
  const byBody = { offset: Array.isArray(offset) ? {} : (offset ?? {}), scale: typeof scale === "object" ? scale : {} };
  for (const [key, named] of Object.entries(byBody)) {
    for (const body of Object.keys(named)) findings.known(entry, [...keys, key, body], "body", body, sources.bodies);
  }
  if (attach === undefined) return;
  if ((attach.toward === undefined) !== (attach.along === undefined)) {
    findings.report(entry, [...keys, "attach"], "half-a-turn");
  }
  const points = new Set(bodies.flatMap((body) => [...pointNames(body, sources)]));
  for (const key of ["point", "toward"] as const) {
    const name = attach[key];
    if (name !== undefined) findings.known(entry, [...keys, "attach", key], "point", name, points);
  }
}

/** Checks what a form names. */
export function checkForm(entry: Entry<FormSource>, sources: Sources, findings: Findings): void {
  const { bodies, animations = {}, art = [], parts = {}, colors = {} } = entry.value;
  for (const [number, body] of (bodies ?? []).entries())
    findings.known(entry, ["bodies", number], "body", body, sources.bodies);
  const worn = bodies ?? [...sources.bodies.keys()];
  const rigs = worn.map((body) => sources.rigs.get(inherited(lineage(body, sources), "rig") ?? "")?.value);
  const known = new Set(rigs.flatMap((rig) => Object.keys(rig?.animations ?? {})));
  for (const [from, to] of Object.entries(animations)) {
    findings.known(entry, ["animations", from], "animation", from, known);
    findings.known(entry, ["animations", from], "animation", to, known);
  }
  for (const [number, layer] of art.entries()) checkLayer(entry, ["art", number], layer, worn, sources, findings);
  for (const [slot, part] of Object.entries(parts)) {
    findings.known(entry, ["parts", slot], "slot", slot, sources.slots);
    if (part === null || !findings.known(entry, ["parts", slot], "part", part, sources.parts)) continue;
    if ([sources.parts.get(part)?.value.slot].flat().includes(slot)) continue;
    findings.report(entry, ["parts", slot], "form-elsewhere", { part, slot });
  }
  for (const [channel, ramp] of Object.entries(colors)) {
    findings.known(entry, ["colors", channel], "channel", channel, sources.channels);
    findings.known(entry, ["colors", channel], "ramp", ramp, sources.ramps);
  }
}
