import { titleFromId } from "../../base/text.ts";
import type {
  Animation,
  Attachment,
  Facing,
  Form,
  Layer,
  Point,
  Rectangle,
  Rig,
  SignalBounds,
} from "../model/drawn.ts";
import type { FormSource, LayerSource, RigSource, SignalTestSource } from "../schema/schema.ts";

const nothing: readonly never[] = [];
const noMap: ReadonlyMap<string, never> = new Map<string, never>();

export function compileRig(id: string, source: RigSource): Rig {
  const facings = source.facings.map((facing): [string, Facing] =>
    typeof facing === "string"
      ? [facing, { id: facing, drawnAs: facing, mirrored: false }]
      : [facing.id, { id: facing.id, drawnAs: facing.mirror, mirrored: true }],
  );
  const animations = Object.entries(source.animations).map(([name, animation]): [string, Animation] => [
    name,
    {
      id: name,
      frames: animation.frames,
      fps: animation.fps,
      loop: animation.loop ?? true,
      otherwise: animation.else,
    },
  ]);
  const crops = Object.entries(source.crops ?? {});
  return {
    id,
    title: source.title ?? titleFromId(id),
    frame: source.frame,
    origin: readPoint(source.origin),
    facings: new Map(facings),
    animations: new Map(animations),
    crops: new Map(
      crops.map(([name, { animation, facing, point, rect, round = false, back, rim }]) => [
        name,
        { animation, facing, point, rectangle: readRectangle(rect), round, back: colorOr(back), rim: colorOr(rim) },
      ]),
    ),
    twins: new Map(
      (source.twins ?? []).flatMap(([one, other]): [string, string][] => [
        [one, other],
        [other, one],
      ]),
    ),
  };
}

export function compileLayer(source: LayerSource): Layer {
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
    attach: source.attach === undefined ? undefined : compileAttachment(source.attach),
    offset: byBody<[number, number], Point>(source.offset, isPair, readPoint),
    scale: byBody<number, number>(source.scale, isNumber, (scale) => scale),
    forms: source.forms,
    notForms: source.notForms ?? nothing,
  };
}

function compileAttachment({ point, at, toward, along }: NonNullable<LayerSource["attach"]>): Attachment {
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

export function compileForm(id: string, source: FormSource): Form {
  return {
    id,
    title: source.title ?? titleFromId(id),
    when: [source.when].flat().map(compileTest),
    priority: source.priority ?? 0,
    bodies: source.bodies === undefined ? undefined : new Set(source.bodies),
    animations: new Map(Object.entries(source.animations ?? {})),
    collider: source.collider,
    abilities: source.abilities,
    layers: source.art?.map(compileLayer),
    parts: source.parts ?? {},
    opacity: source.opacity ?? 1,
    colors: source.colors ?? {},
  };
}

function compileTest({ signal, until, ...bounds }: SignalTestSource): Form["when"][number] {
  return { signal, ...boundsOf(bounds), until: until === undefined ? undefined : boundsOf(until) };
}

function boundsOf({ is, atLeast, atMost }: NonNullable<SignalTestSource["until"]>): SignalBounds {
  return { is, atLeast, atMost };
}

/** `#rrggbb` as `0xRRGGBB`. */
export function readColor(source: string): number {
  return Number.parseInt(source.slice(1), 16);
}

function colorOr(source: string | undefined): number | undefined {
  return source === undefined ? undefined : readColor(source);
}

function readPoint([x, y]: readonly [number, number]): Point {
  return { x, y };
}

function readRectangle([x, y, width, height]: readonly [number, number, number, number]): Rectangle {
  return { x, y, width, height };
}
