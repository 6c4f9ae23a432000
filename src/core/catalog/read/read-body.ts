import { getOrInsert } from "../../base/get-or-insert.ts";
import { limits } from "../../base/limits.ts";
import { titleFromId } from "../../base/text.ts";
import type { Body, Rig } from "../model/catalog.ts";
import type { BodySource } from "../schema/schema.ts";
import type { BodyPoints } from "./body-points.ts";
import { extendsItself, inherited, isLineageTooLong, lineage } from "./lineage.ts";
import { readLayer } from "./read-layer.ts";
import { readMesh } from "./read-mesh.ts";
import type { LayerReader } from "./reader.ts";
import type { Entry } from "./source.ts";

const nothing: readonly never[] = [];

/** Reads a body; `undefined` for one without a rig or of an endless lineage. Reports that, and what it names that is not there. */
export function readBody(
  entry: Entry<BodySource>,
  rigs: ReadonlyMap<string, Rig>,
  points: BodyPoints,
  art: ArtByOwner,
  reader: LayerReader,
): Body | undefined {
  const { id, value } = entry;
  const { extends: base, rig, artFrom, growsInto } = value;
  const { sources, findings } = reader;
  if (
    base !== undefined &&
    findings.known(entry, ["extends"], "body", base, sources.bodies) &&
    extendsItself(id, sources)
  ) {
    findings.report(entry, ["extends"], "circular-extends", { body: id, base });
    return undefined;
  }
  if (isLineageTooLong(id, sources)) {
    findings.report(entry, ["extends"], "long-lineage", { max: limits.lineage, body: id });
    return undefined;
  }
  const line = lineage(id, sources);
  const rigId = inherited(line, "rig");
  if (rig !== undefined) findings.known(entry, ["rig"], "rig", rig, sources.rigs);
  if (rigId === undefined) findings.report(entry, [], "missing-rig", { body: id });
  if (artFrom !== undefined) findings.known(entry, ["artFrom"], "body", artFrom, sources.bodies);
  if (growsInto !== undefined) findings.known(entry, ["growsInto"], "body", growsInto, sources.bodies);
  const owner = line.find((each) => each.value.art !== undefined);
  const layers = owner === undefined ? nothing : getOrInsert(art.layers, owner.id, () => readArt(owner, reader));
  const modeled = line.find((each) => each.value.model !== undefined);
  const known = rigs.get(rigId ?? "");
  if (known === undefined) return undefined;
  return {
    id,
    title: value.title ?? titleFromId(id),
    rig: known,
    layers,
    meshes: modeled === undefined ? nothing : getOrInsert(art.meshes, modeled.id, () => readModel(modeled, reader)),
    artName: artFrom ?? id,
    lineage: line.map((each) => each.id),
    points: points.table,
    markers: points.markers,
    collider: inherited(line, "collider"),
    capsule: inherited(line, "capsule"),
    abilities: inherited(line, "abilities") ?? nothing,
    stats: Object.assign({}, ...line.map((each) => each.value.stats ?? {}).reverse()),
    allow: value.allow ?? nothingAllowed,
    growsInto,
  };
}

const nothingAllowed: Body["allow"] = {};

/** The art of bodies that have some of their own, which those that extend them share. */
export interface ArtByOwner {
  readonly layers: Map<string, Body["layers"]>;
  readonly meshes: Map<string, Body["meshes"]>;
}

function readModel(entry: Entry<BodySource>, reader: LayerReader): Body["meshes"] {
  const { model = nothing } = entry.value;
  return model.map((mesh, number) =>
    readMesh(mesh, { entry, keys: ["model", number], bodies: [entry.id], slots: nothing }, reader),
  );
}

function readArt(entry: Entry<BodySource>, reader: LayerReader): Body["layers"] {
  const { art = nothing } = entry.value;
  return art.map((layer, number) =>
    readLayer(layer, { entry, keys: ["art", number], bodies: [entry.id], slots: nothing }, reader),
  );
}
