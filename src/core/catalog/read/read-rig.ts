import { titleFromId } from "../../base/text.ts";
import type { Animation, Crop, Facing, Rig } from "../model/drawn.ts";
import type { RigSource } from "../schema/schema.ts";
import { pointNames } from "./body-points.ts";
import type { Findings } from "./findings.ts";
import { readColor, readPoint, readRectangle } from "./numbers.ts";
import type { Reader } from "./reader.ts";
import type { Entry, Sources } from "./source.ts";

/** Reads a rig. Reports facings that stand twice, and what it names that is not there. */
export function readRig(entry: Entry<RigSource>, { sources, findings }: Reader): Rig {
  const { id, value } = entry;
  const facings = readFacings(entry, findings);
  const animations = readAnimations(entry, findings);
  const { crops = {}, twins = [] } = value;
  const isPointed = twins.length > 0 || Object.values(crops).some(({ point }) => point !== undefined);
  const points = isPointed ? pointsOfAny(sources) : noPoints;
  for (const [number, pair] of twins.entries()) {
    for (const [side, name] of pair.entries())
      if (!points.has(name)) findings.known(entry, ["twins", number, side], "slot", name, sources.slots);
  }
  const readCrop = ([name, crop]: [string, CropSource]): [string, Crop] => {
    const { animation, facing, point, rect, round = false, back, rim } = crop;
    findings.known(entry, ["crops", name, "animation"], "animation", animation, animations);
    findings.known(entry, ["crops", name, "facing"], "facing", facing, facings);
    if (point !== undefined) findings.known(entry, ["crops", name, "point"], "point", point, points);
    const rectangle = readRectangle(rect);
    return [name, { animation, facing, point, rectangle, round, back: colorOr(back), rim: colorOr(rim) }];
  };
  return {
    id,
    title: value.title ?? titleFromId(id),
    frame: value.frame,
    origin: readPoint(value.origin),
    facings,
    animations,
    crops: new Map(Object.entries(crops).map(readCrop)),
    twins: new Map([...twins, ...twins.map(([one, other]) => [other, one] as const)]),
  };
}

type CropSource = NonNullable<RigSource["crops"]>[string];

function readFacings(entry: Entry<RigSource>, findings: Findings): ReadonlyMap<string, Facing> {
  const { facings } = entry.value;
  const drawn = new Set(facings.filter((facing) => typeof facing === "string"));
  const read = new Map<string, Facing>();
  for (const [number, source] of facings.entries()) {
    const { id, mirror } = typeof source === "string" ? { id: source, mirror: undefined } : source;
    if (read.has(id)) findings.report(entry, ["facings", number], "duplicate-facing", { facing: id });
    if (mirror !== undefined) findings.known(entry, ["facings", number, "mirror"], "facing", mirror, drawn);
    read.set(id, { id, drawnAs: mirror ?? id, mirrored: mirror !== undefined });
  }
  return read;
}

function readAnimations(entry: Entry<RigSource>, findings: Findings): ReadonlyMap<string, Animation> {
  const sources = new Map(Object.entries(entry.value.animations));
  const read = new Map<string, Animation>();
  for (const [id, { frames, fps, loop = true, else: otherwise }] of sources) {
    if (otherwise !== undefined) findings.known(entry, ["animations", id, "else"], "animation", otherwise, sources);
    read.set(id, { id, frames, fps, loop, otherwise });
  }
  return read;
}

function colorOr(source: string | undefined): number | undefined {
  return source === undefined ? undefined : readColor(source);
}

const noPoints: ReadonlySet<string> = new Set();

/** The names of the points that any body has. */
function pointsOfAny(sources: Sources): ReadonlySet<string> {
  return new Set([...sources.bodies.keys()].flatMap((body) => [...pointNames(body, sources)]));
}
