import type { JointPoint, Mesh, RigModel } from "../model/modeled.ts";
import type { MeshSource, RigSource } from "../schema/art-schema.ts";
import { inherited, lineage } from "./lineage.ts";
import type { LayerPlace, LayerReader } from "./reader.ts";

const nothing: readonly string[] = [];
const nowhere: JointPoint["offset"] = [0, 0, 0];

/** How far a figure that looks at the viewer turns to face where facings are called after. */
const compass = {
  south: 0,
  "south-east": 45,
  east: 90,
  "north-east": 135,
  north: 180,
  "north-west": -135,
  west: -90,
  "south-west": -45,
};

/** Reads the model of a rig. */
export function readRigModel(source: NonNullable<RigSource["model"]>): RigModel {
  const { file, clips = {}, scale = 1, tilt = 0, ink = 1, turns = {}, points = {} } = source;
  const place = (source: (typeof points)[string]): JointPoint =>
    typeof source === "string"
      ? { joint: source, offset: nowhere }
      : { joint: source.joint, offset: source.offset ?? nowhere };
  return {
    file,
    clips: new Map(Object.entries(clips)),
    scale,
    tilt,
    ink,
    turns: new Map(Object.entries({ ...compass, ...turns })),
    points: new Map(Object.entries(points).map(([id, source]) => [id, place(source)])),
  };
}

/** Reads a mesh of a body or a part. Reports what it names that is not there. */
export function readMesh(source: MeshSource, place: LayerPlace, reader: LayerReader): Mesh {
  const { file, node, group, in: slot, channel, channels = {}, attach, forms, notForms = nothing } = source;
  const all = new Map(Object.entries(channels));
  if (channel !== undefined) all.set("", channel);
  report(source, all, place, reader);
  return { file, node, group, in: slot, channels: all, attach, forms, notForms };
}

function report(
  { attach, forms = [], notForms = [] }: MeshSource,
  channels: Mesh["channels"],
  { entry, keys, bodies }: LayerPlace,
  { sources, findings, rigs }: LayerReader,
): void {
  for (const [material, id] of channels)
    findings.known(
      entry,
      [...keys, ...(material === "" ? ["channel"] : ["channels", material])],
      "channel",
      id,
      sources.channels,
    );
  for (const form of [...forms, ...notForms]) findings.known(entry, keys, "form", form, sources.forms);
  const worn = new Set([...bodies].map((body) => inherited(lineage(body, sources), "rig") ?? ""));
  const models = [...worn].flatMap((id) => rigs.get(id)?.model ?? []);
  const [rig = ""] = worn;
  // Worn on rigs that are only drawn, besides, it shows nothing there.
  if (models.length === 0) findings.report(entry, keys, "rig-without-model", { rig });
  for (const { points } of attach === undefined ? [] : models)
    findings.known(entry, [...keys, "attach"], "point", attach ?? "", points);
}
