import { layoutArt, layoutKey } from "../compile/layout-art.ts";
import type { Attachment, Layer, LayerLayout, Point, Rig } from "../model/drawn.ts";
import { isNumbered, isTabled } from "../model/frames-table.ts";
import type { LayerSource } from "../schema/art-schema.ts";
import { pointNames } from "./body-points.ts";
import type { Findings } from "./findings.ts";
import { inherited, lineage } from "./lineage.ts";
import { readColor, readPoint } from "./numbers.ts";
import { reportFrames } from "./read-frames.ts";
import { readDepth, readLayout, reportDepth, reportLayout } from "./read-layout.ts";
import type { LayerPlace, LayerReader } from "./reader.ts";
import type { Sources } from "./source.ts";

const nothing: readonly never[] = [];
const noMap: ReadonlyMap<string, never> = new Map<string, never>();

/**
 * Reads a layer of a body, a part or a form. Reports what it names that is not there.
 *
 * @param place - where it is written; nothing where it is known to be plain.
 */
export function readLayer(source: LayerSource, place: LayerPlace | undefined, reader: LayerReader): Layer {
  const isBare = place === undefined || isPlain(source, reader.sources);
  if (!isBare) reportUnknown(source, place, reader);
  const { depth, blank } = source;
  const laid = isBare ? plainly : readLaidOut(source);
  // Key by key: to spread an object into another takes longer than all the rest.
  return {
    image: source.image,
    laid,
    art: isBare ? artOn(plainly, reader) : isTabled(source) ? noMap : artOn(laid, reader),
    frames: source.frames,
    depth: depth === undefined ? undefined : readDepth(depth),
    channel: source.channel,
    group: source.group,
    in: source.in,
    opacity: source.opacity ?? 1,
    otherwise: source.else === undefined ? noMap : source.else === false ? false : new Map(Object.entries(source.else)),
    blank: blank === undefined ? undefined : readColor(blank),
    attach: source.attach === undefined ? undefined : readAttachment(source.attach),
    offset: byBody<readonly [number, number], Point>(source.offset, isPair, readPoint),
    scale: byBody<number, number>(source.scale, isNumber, same),
    forms: source.forms,
    notForms: source.notForms ?? nothing,
  };
}

/** Most layers, which therefore share it. */
const plainly: LayerLayout = {
  animations: undefined,
  facings: undefined,
  still: false,
  layout: undefined,
  column: 0,
  row: 0,
  cells: undefined,
  names: noMap,
  // The middle of the bottom.
  anchor: { x: 0.5, y: 1 },
};

function readLaidOut(source: LayerSource): LayerLayout {
  const { animations, facings, still = false, layout, column = 0, row = 0, cells, names, anchor } = source;
  return {
    animations,
    facings,
    still,
    layout: typeof layout === "object" ? readLayout(layout) : layout,
    column,
    row,
    cells: cells?.map((cell) => (cell === null ? undefined : readPoint(cell))),
    names: names === undefined ? noMap : new Map(Object.entries(names)),
    anchor: anchor === undefined ? plainly.anchor : readPoint(anchor),
  };
}

function artOn(laid: LayerLayout, { rigs, arts }: LayerReader): Layer["art"] {
  const key = laid === plainly ? "" : layoutKey(laid);
  const known = arts.get(key);
  if (known !== undefined) return known;
  const made = new Map([...rigs].map(([id, rig]) => [id, layoutArt(rig, laid, key)]));
  arts.set(key, made);
  return made;
}

function readAttachment({ point, at, toward, along }: NonNullable<LayerSource["attach"]>): Attachment {
  return {
    point,
    at: at === undefined ? undefined : readPoint(at),
    toward,
    along: along === undefined ? undefined : readPoint(along),
  };
}

function isPair(source: unknown): source is readonly [number, number] {
  return Array.isArray(source);
}

function isNumber(source: unknown): source is number {
  return typeof source === "number";
}

function same(scale: number): number {
  return scale;
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

/** The keys of a layer that can name nothing that does not exist. */
const plainKeys: ReadonlySet<string> = new Set(["image", "depth", "channel", "group", "opacity", "blank"]);

/** Whether there is nothing in a layer that could name what does not exist: of nearly all that is so. */
export function isPlain(layer: LayerSource, { channels }: Sources): boolean {
  const { channel, depth, image } = layer;
  if (channel !== undefined && !channels.has(channel)) return false;
  for (const key in layer) if (!plainKeys.has(key)) return false;
  return typeof depth === "number" && !isNumbered(image);
}

function reportUnknown(layer: LayerSource, place: LayerPlace, reader: LayerReader): void {
  const { sources, findings } = reader;
  const { entry, keys } = place;
  if (layer.channel !== undefined && !sources.channels.has(layer.channel))
    findings.known(entry, [...keys, "channel"], "channel", layer.channel, sources.channels);
  const bodies = [...place.bodies];
  reportUnknownBodies(layer, { ...place, bodies }, sources, findings);
  for (const key of ["forms", "notForms"] as const) {
    for (const [number, form] of (layer[key] ?? []).entries())
      findings.known(entry, [...keys, key, number], "form", form, sources.forms);
  }
  const rigs = rigsOf(bodies, reader);
  const animations = new Set(rigs.flatMap((rig) => [...rig.animations.keys()]));
  const facings = new Set(rigs.flatMap((rig) => [...rig.facings.keys()]));
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
  reportDepth(entry, [...keys, "depth"], layer.depth, facings, findings);
  if (typeof layer.layout === "object") reportLayout(entry, [...keys, "layout"], layer.layout, findings);
  for (const rig of rigs) reportFit(layer, place, rig, findings);
  if (isTabled(layer)) reportFrames(layer, { ...place, bodies }, { animations, facings }, reader);
}

function rigsOf(bodies: readonly string[], { sources, rigs }: LayerReader): readonly Rig[] {
  const ids = new Set(bodies.map((body) => inherited(lineage(body, sources), "rig")));
  return [...ids].flatMap((id) => rigs.get(id ?? "") ?? []);
}

/** Reports what a layer leaves to its rig and the rig does not have: a layout, a depth. */
function reportFit(
  { layout, depth, group, in: slot }: LayerSource,
  { entry, keys, slots }: LayerPlace,
  { layouts, depths }: Rig,
  findings: Findings,
): void {
  if (typeof layout === "string") findings.known(entry, [...keys, "layout"], "layout", layout, layouts);
  if (depth !== undefined) return;
  const worn = slot === undefined ? slots : [slot];
  const isDeep = (each: string) => depths.has(`${each}/${group}`) || depths.has(each);
  if (worn.length === 0 || !worn.every(isDeep)) findings.report(entry, keys, "missing-depth");
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
