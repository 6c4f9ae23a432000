import { titleFromId } from "../../base/text.ts";
import type { Form, SignalBounds } from "../model/drawn.ts";
import type { FormSource, SignalTestSource } from "../schema/schema.ts";
import { inherited, lineage } from "./lineage.ts";
import { readLayer } from "./read-layer.ts";
import type { LayerReader } from "./reader.ts";
import type { Entry } from "./source.ts";

/** Reads a form. Reports what it names that is not there, and parts in slots where they do not go. */
export function readForm(entry: Entry<FormSource>, reader: LayerReader): Form {
  const { id, value } = entry;
  const { sources, findings } = reader;
  const { bodies, animations = {}, art, parts = {}, colors = {} } = value;
  for (const [number, body] of (bodies ?? []).entries())
    findings.known(entry, ["bodies", number], "body", body, sources.bodies);
  const worn = bodies ?? [...sources.bodies.keys()];
  const rigs = worn.map((body) => sources.rigs.get(inherited(lineage(body, sources), "rig") ?? "")?.value);
  const known = new Set(rigs.flatMap((rig) => Object.keys(rig?.animations ?? {})));
  for (const [from, to] of Object.entries(animations)) {
    findings.known(entry, ["animations", from], "animation", from, known);
    findings.known(entry, ["animations", from], "animation", to, known);
  }
  const layers = art?.map((layer, number) =>
    readLayer(layer, { entry, keys: ["art", number], bodies: worn, slots: [] }, reader),
  );
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
  return {
    id,
    title: value.title ?? titleFromId(id),
    when: [value.when].flat().map(readTest),
    priority: value.priority ?? 0,
    bodies: bodies && new Set(bodies),
    animations: new Map(Object.entries(animations)),
    collider: value.collider,
    capsule: value.capsule,
    scale: value.scale ?? 1,
    abilities: value.abilities,
    layers,
    parts,
    opacity: value.opacity ?? 1,
    colors,
  };
}

function readTest({ signal, until, ...bounds }: SignalTestSource): Form["when"][number] {
  return { signal, ...boundsOf(bounds), until: until === undefined ? undefined : boundsOf(until) };
}

function boundsOf({ is, atLeast, atMost }: NonNullable<SignalTestSource["until"]>): SignalBounds {
  return { is, atLeast, atMost };
}
