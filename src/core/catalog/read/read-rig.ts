import { titleFromId } from "../../base/text.ts";
import type { Animation, Crop, Depth, Facing, Rig } from "../model/drawn.ts";
import type { DepthSource, RigSource } from "../schema/art-schema.ts";
import { pointNames } from "./body-points.ts";
import { drawnFacings } from "./drawn-facings.ts";
import type { Findings } from "./findings.ts";
import { readColor, readPoint, readRectangle } from "./numbers.ts";
import { readDepth, reportDepth, reportLayout } from "./read-layout.ts";
import { readRigModel } from "./read-mesh.ts";
import type { Reader } from "./reader.ts";
import type { Entry, Sources } from "./source.ts";

/** Reads a rig. Reports facings that stand twice, and what it names that is not there. */
export function readRig(entry: Entry<RigSource>, { sources, findings }: Reader): Rig {
  const { id, value } = entry;
  const facings = readFacings(entry, findings);
  const animations = readAnimations(entry, findings);
  const { crops = {}, twins = [], crisp = false, layout, depths = {} } = value;
  const layouts = new Map(
    Object.entries(value.layouts ?? {}).map(([name, each]) => [
      name,
      reportLayout(entry, ["layouts", name], each, findings),
    ]),
  );
  if (typeof layout === "string") findings.known(entry, ["layout"], "layout", layout, layouts);
  const readDepths = ([key, depth]: [string, DepthSource]): [string, Depth] => {
    const [slot = ""] = key.split("/");
    findings.known(entry, ["depths", key], "slot", slot, sources.slots);
    reportDepth(entry, ["depths", key], depth, new Set(facings.keys()), findings);
    return [key, readDepth(depth)];
  };
  for (const animation of Object.keys(value.model?.clips ?? {}))
    findings.known(entry, ["model", "clips", animation], "animation", animation, animations);
  const isPointed = twins.length > 0 || Object.values(crops).some(({ point }) => point !== undefined);
  const model = value.model && readRigModel(value.model);
  const points = isPointed ? pointsOfAny(sources) : noPoints;
  const croppable = new Set([...points, ...(model?.points.keys() ?? [])]);
  for (const [number, pair] of twins.entries()) {
    for (const [side, name] of pair.entries())
      if (!points.has(name)) findings.known(entry, ["twins", number, side], "slot", name, sources.slots);
  }
  const readCrop = ([name, crop]: [string, CropSource]): [string, Crop] => {
    const { animation, facing, point, rect, round = false, back, rim } = crop;
    findings.known(entry, ["crops", name, "animation"], "animation", animation, animations);
    findings.known(entry, ["crops", name, "facing"], "facing", facing, facings);
    if (point !== undefined) findings.known(entry, ["crops", name, "point"], "point", point, croppable);
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
    crisp,
    model,
    layouts,
    layout:
      typeof layout === "string" ? layouts.get(layout) : layout && reportLayout(entry, ["layout"], layout, findings),
    depths: new Map(Object.entries(depths).map(readDepths)),
    twins: new Map([...twins, ...twins.map(([one, other]) => [other, one] as const)]),
  };
}

type CropSource = NonNullable<RigSource["crops"]>[string];

function readFacings(entry: Entry<RigSource>, findings: Findings): ReadonlyMap<string, Facing> {
  const { facings } = entry.value;
  const drawn = new Set(drawnFacings(entry.value));
  const read = new Map<string, Facing>();
  for (const [number, source] of facings.entries()) {
    const { id, mirror, title = titleFromId(id) } = typeof source === "string" ? { id: source } : source;
    if (read.has(id)) findings.report(entry, ["facings", number], "duplicate-facing", { facing: id });
    if (mirror !== undefined) findings.known(entry, ["facings", number, "mirror"], "facing", mirror, drawn);
    read.set(id, { id, title, drawnAs: mirror ?? id, mirrored: mirror !== undefined });
  }
  return read;
}

function readAnimations(entry: Entry<RigSource>, findings: Findings): ReadonlyMap<string, Animation> {
  const sources = new Map(Object.entries(entry.value.animations));
  const read = new Map<string, Animation>();
  for (const [id, source] of sources) {
    const { title = titleFromId(id), frames, loop = true, else: otherwise } = source;
    if (otherwise !== undefined) findings.known(entry, ["animations", id, "else"], "animation", otherwise, sources);
    const events = readEvents({ entry, id, source }, findings);
    read.set(id, { id, title, frames, events, ...readTiming({ entry, id, source }, findings), loop, otherwise });
  }
  return read;
}

/** Reads what is emitted when frames begin. Reports frames that are not drawn. */
function readEvents({ entry, id, source }: AnimationPlace, findings: Findings): Animation["events"] {
  const { events, frames } = source;
  if (events === undefined) return noEvents;
  return new Map(
    Object.entries(events).map(([key, words]) => {
      const frame = Number(key);
      if (frame >= frames)
        findings.report(entry, ["animations", id, "events", key], "no-such-frame", { frame, frames });
      return [frame, typeof words === "string" ? [words] : words];
    }),
  );
}

const noEvents: Animation["events"] = new Map();

interface AnimationPlace {
  readonly entry: Entry<RigSource>;
  readonly id: string;
  readonly source: RigSource["animations"][string];
}

/** Reads which frames are shown, and until when each. Reports frames that are not drawn, and durations that are missing or too many. */
function readTiming({ entry, id, source }: AnimationPlace, findings: Findings): Pick<Animation, "sequence" | "ends"> {
  const { frames, fps, durations } = source;
  const keys = ["animations", id];
  const sequence = sequenceOf(source);
  for (const [at, frame] of sequence.entries()) {
    if (frame >= frames) findings.report(entry, [...keys, "sequence", at], "no-such-frame", { frame, frames });
  }
  const count = sequence.length;
  if (durations === undefined && fps === undefined) findings.report(entry, keys, "untimed", { animation: id });
  if (durations !== undefined && durations.length !== count)
    findings.report(entry, [...keys, "durations"], "duration-count", { count: durations.length, frames: count });
  if (fps !== undefined && durations === undefined) return { sequence, ends: sequence.map((_, at) => (at + 1) / fps) };
  let end = 0;
  return { sequence, ends: sequence.map((_, at) => (end += durations?.[at] ?? 1)) };
}

function sequenceOf({ frames, sequence }: AnimationPlace["source"]): readonly number[] {
  if (Array.isArray(sequence)) return sequence;
  const drawn = Array.from({ length: frames }, (_, frame) => frame);
  if (sequence === "reverse") return drawn.reverse();
  return sequence === undefined ? drawn : [...drawn, ...drawn.slice(1, -1).reverse()];
}

function colorOr(source: string | undefined): number | undefined {
  return source === undefined ? undefined : readColor(source);
}

const noPoints: ReadonlySet<string> = new Set();

/** The names of the points that any body has. */
function pointsOfAny(sources: Sources): ReadonlySet<string> {
  return new Set([...sources.bodies.keys()].flatMap((body) => [...pointNames(body, sources)]));
}
