import { titleFromId } from "../../base/text.ts";
import { compilePart } from "../compile/compile-part.ts";
import type { CompiledRules, Layer, LayerGroup, Part } from "../model/catalog.ts";
import type { PartSource } from "../schema/schema.ts";
import { isPlain, readLayer } from "./read-layer.ts";
import { readMesh } from "./read-mesh.ts";
import { slotsOf } from "./read-slot.ts";
import type { LayerReader, PartPlaces, Reader } from "./reader.ts";
import type { Entry } from "./source.ts";
import { readGifts } from "./stat-modifier.ts";

const nothing: readonly never[] = [];
const noWords: Readonly<Record<string, string>> = {};
const noRequirements: Readonly<Record<string, number>> = {};

/** Reads a part, with what rules see of it. Reports what it names that is not there, and layers that nobody will see. */
export function readPart(entry: Entry<PartSource>, rules: CompiledRules, reader: LayerReader): Part {
  const { id, value } = entry;
  const { occupies = nothing, tags = nothing, fits, hides = nothing, price, counterparts = noWords } = value;
  const { sources, findings } = reader;
  const { slots, places } =
    typeof value.slot === "string" ? placeOf(value.slot, rules, reader) : placesOf(value.slot, rules);
  for (const each of slots) {
    if (!sources.slots.has(each)) findings.known(entry, ["slot"], "slot", each, sources.slots);
  }
  if (occupies.length + (fits?.length ?? 0) + hides.length > 0) reportUnknown(entry, reader);
  for (const body in counterparts) checkCounterpart(entry, body, counterparts[body] ?? "", reader);
  const gives = readGifts(value.gives);
  const { requires = noRequirements } = value;
  return {
    id,
    title: value.title ?? titleFromId(id),
    slots,
    occupies,
    tags,
    layers: readLayers(entry, slots, reader),
    meshes: readMeshes(entry, slots, reader),
    fits: fits === undefined ? undefined : new Set(fits),
    hides: hides.length === 0 ? nothing : hides.map(readGroup),
    gives,
    requires,
    price,
    access: value.access ?? (price === undefined || price === 0 ? "owned" : "listed"),
    retired: value.retired === true,
    rarity: value.rarity,
    counterparts,
    stack: value.stack ?? 1,
    allow: value.allow ?? noWords,
    compiled: compilePart({ id, tags, occupies, gives, requires }, places, rules),
  };
}

/** One slot, as all parts that go in it alone share it. */
function placeOf(slot: string, rules: CompiledRules, { places }: LayerReader): PartPlaces {
  const known = places.get(slot);
  if (known !== undefined) return known;
  const made = placesOf([slot], rules);
  places.set(slot, made);
  return made;
}

function placesOf(slots: readonly string[], { slotNumbers }: CompiledRules): PartPlaces {
  return { slots, places: slots.map((slot) => slotNumbers.get(slot) ?? -1) };
}

function readLayers(entry: Entry<PartSource>, slots: readonly string[], reader: LayerReader): Part["layers"] {
  const { layers = nothing, meshes, fits } = entry.value;
  const { sources, findings } = reader;
  const read = new Array<Layer>(layers.length);
  for (let number = 0; number < layers.length; number += 1) {
    const layer = layers[number];
    if (layer === undefined) continue;
    // Where a layer is written is put together only where it can name what is not there.
    const place = isPlain(layer, sources)
      ? undefined
      : { entry, keys: ["layers", number], bodies: fits ?? sources.bodies.keys(), slots };
    read[number] = readLayer(layer, place, reader);
    if (layer.in !== undefined && !slots.includes(layer.in))
      findings.report(entry, ["layers", number, "in"], "layer-elsewhere", { slot: layer.in, part: entry.id, slots });
  }
  let isData = false;
  for (const each of slots) if (sources.slots.get(each)?.value.data === true) isData = true;
  if (layers.length > 0 && isData) findings.warn(entry, ["layers"], "picture-in-data-slot", { part: entry.id });
  if (layers.length === 0 && meshes === undefined && !isData)
    findings.warn(entry, ["layers"], "nothing-to-show", { part: entry.id });
  return read;
}

function readMeshes(entry: Entry<PartSource>, slots: readonly string[], reader: LayerReader): Part["meshes"] {
  const { meshes, fits } = entry.value;
  if (meshes === undefined) return nothing;
  return meshes.map((mesh, number) => {
    const place = { entry, keys: ["meshes", number], bodies: fits ?? reader.sources.bodies.keys(), slots };
    if (mesh.in !== undefined && !slots.includes(mesh.in))
      reader.findings.report(entry, [...place.keys, "in"], "layer-elsewhere", { slot: mesh.in, part: entry.id, slots });
    return readMesh(mesh, place, reader);
  });
}

/** Reports the slots and bodies that a part names besides its own, and that are not there. */
function reportUnknown(entry: Entry<PartSource>, { sources, findings }: Reader): void {
  const { occupies = nothing, fits = nothing, hides = nothing } = entry.value;
  for (const [number, each] of occupies.entries())
    findings.known(entry, ["occupies", number], "slot", each, sources.slots);
  for (const [number, each] of fits.entries()) findings.known(entry, ["fits", number], "body", each, sources.bodies);
  for (const [number, each] of hides.entries()) {
    const { slot } = readGroup(each);
    if (slot !== "body") findings.known(entry, ["hides", number], "slot", slot, sources.slots);
  }
}

/** Checks that a counterpart can be put on where the part was. */
function checkCounterpart(entry: Entry<PartSource>, body: string, id: string, { sources, findings }: Reader): void {
  const keys = ["counterparts", body];
  findings.known(entry, keys, "body", body, sources.bodies);
  if (!findings.known(entry, keys, "part", id, sources.parts)) return;
  const other = sources.parts.get(id)?.value;
  if (other === undefined) return;
  if (other.retired === true && entry.value.retired !== true)
    findings.warn(entry, keys, "retired-and-worn", { part: id, by: entry.id });
  const slots = slotsOf(entry.value.slot);
  if (!slots.some((slot) => slotsOf(other.slot).includes(slot))) {
    findings.report(entry, keys, "counterpart-elsewhere", { other: id, part: entry.id, slot: slots[0] ?? "" });
  }
  if (other.fits !== undefined && !other.fits.includes(body)) {
    findings.report(entry, keys, "counterpart-does-not-fit", { other: id, body });
  }
}

function readGroup(source: string): LayerGroup {
  const [slot = "", group] = source.split("/");
  return { slot, group };
}
