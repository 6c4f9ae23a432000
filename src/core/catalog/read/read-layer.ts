import type { Attachment, Layer, Point } from "../model/drawn.ts";
import type { LayerSource } from "../schema/schema.ts";
import { pointNames } from "./body-points.ts";
import type { Findings } from "./findings.ts";
import { inherited, lineage } from "./lineage.ts";
import { readPoint } from "./numbers.ts";
import type { Reader } from "./reader.ts";
import type { Entry, Sources } from "./source.ts";

const nothing: readonly never[] = [];
const noMap: ReadonlyMap<string, never> = new Map<string, never>();

/** Where a layer is written, and who can wear it. */
export interface LayerPlace {
  readonly entry: Entry<unknown>;
  readonly keys: readonly (string | number)[];
  readonly bodies: Iterable<string>;
}

/** Reads a layer of a body, a part or a form. Reports what it names that is not there. */
export function readLayer(source: LayerSource, placeOf: () => LayerPlace, reader: Reader): Layer {
  // Nearly all layers name nothing but a channel.
  if (!isPlain(source, reader.sources)) reportUnknown(source, placeOf(), reader);
  const { depth } = source;
  const byFacing =
    typeof depth === "number" ? nothing : Object.entries(depth).filter(([facing]) => facing !== "default");
  return {
    image: source.image,
    depth: typeof depth === "number" ? depth : depth.default,
    depthByFacing: byFacing.length === 0 ? noMap : new Map(byFacing),
    channel: source.channel,
    group: source.group,
    in: source.in,
    opacity: source.opacity ?? 1,
    animations: source.animations,
    otherwise: source.else === undefined ? noMap : source.else === false ? false : new Map(Object.entries(source.else)),
    grid: source.grid === undefined ? undefined : { cell: source.grid.cell, at: readPoint(source.grid.at ?? [0, 0]) },
    facings: source.facings,
    still: source.still ?? false,
    attach: source.attach === undefined ? undefined : readAttachment(source.attach),
    offset: byBody<[number, number], Point>(source.offset, isPair, readPoint),
    scale: byBody<number, number>(source.scale, isNumber, (scale) => scale),
    forms: source.forms,
    notForms: source.notForms ?? nothing,
  };
}

function readAttachment({ point, at, toward, along }: NonNullable<LayerSource["attach"]>): Attachment {
  return {
    point,
    at: at === undefined ? undefined : readPoint(at),
    toward,
    along: along === undefined ? undefined : readPoint(along),
  };
}

function isPair(source: unknown): source is [number, number] {
  return Array.isArray(source);
}

function isNumber(source: unknown): source is number {
  return typeof source === "number";
}

/** A value for all bodies under `""`, or one for each. */
function byBody<S, T>(
  source: S | Record<string, S> | undefined,
  isOne: (source: S | Record<string, S>) => source is S,
  read: (one: S) => T,
): ReadonlyMap<string, T> {
  if (source === undefined) return noMap;
  if (isOne(source)) return new Map([["", read(source)]]);
  return new Map(Object.entries(source).map(([body, one]) => [body, read(one)]));
}

/** Whether there is nothing in a layer that could name what does not exist. */
function isPlain(
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

function reportUnknown(layer: LayerSource, { entry, keys, bodies }: LayerPlace, { sources, findings }: Reader): void {
  if (layer.channel !== undefined && !sources.channels.has(layer.channel))
    findings.known(entry, [...keys, "channel"], "channel", layer.channel, sources.channels);
  const worn = [...bodies];
  reportUnknownBodies(layer, { entry, keys, bodies: worn }, sources, findings);
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

/** Reports the bodies and points that a layer names and that are not there. */
function reportUnknownBodies(
  { offset, scale, attach }: LayerSource,
  { entry, keys, bodies }: LayerPlace,
  sources: Sources,
  findings: Findings,
): void {
  const byBody = { offset: Array.isArray(offset) ? {} : (offset ?? {}), scale: typeof scale === "object" ? scale : {} };
  for (const [key, named] of Object.entries(byBody)) {
    for (const body of Object.keys(named)) findings.known(entry, [...keys, key, body], "body", body, sources.bodies);
  }
  if (attach === undefined) return;
  if ((attach.toward === undefined) !== (attach.along === undefined)) {
    findings.report(entry, [...keys, "attach"], "incomplete-attach");
  }
  const points = new Set([...bodies].flatMap((body) => [...pointNames(body, sources)]));
  for (const key of ["point", "toward"] as const) {
    const name = attach[key];
    if (name !== undefined) findings.known(entry, [...keys, "attach", key], "point", name, points);
  }
}
