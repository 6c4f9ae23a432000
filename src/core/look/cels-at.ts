import { getOrInsert } from "../base/get-or-insert.ts";
import { requireKnown } from "../base/require-known.ts";
import type {
  Animation,
  Attachment,
  CatalogIds,
  DrawnFrame,
  Facing,
  Point,
  Rectangle,
  Rig,
  Size,
} from "../catalog/model/catalog.ts";
import { drawnPart, drawnSize, framesIn, hasOwnArt } from "./layer-art.ts";
import type { Cel, Look, LookLayer, Moment } from "./look.ts";
import { animationOf, frameAt } from "./moments.ts";
import { pointIn } from "./point-at.ts";

/**
 * The pictures of a look at a moment, back to front.
 *
 * A layer that was not drawn for the animation shows what it, or else the rig, names in its place, and is left out when
 * nothing is named; another part's art is never shown in its place. A layer attached to a point that is not seen is left out too.
 *
 * The same frame gives the same array every time, so asking again costs no memory.
 *
 * @throws MantleError `unknown-animation` or `unknown-facing`.
 * @example
 * celsAt(look, { animation: "walk", facing: "west", time: 0.35 })
 * // → [{ layer, image: "art/reed/shadow.png", x: -32, y: -76, width: 64, height: 80, flip: false, … }, …]
 */
export function celsAt<Ids extends CatalogIds>(look: Look<Ids>, moment: Moment<Ids>): readonly Cel[] {
  const clip = clipOf(look, moment);
  const frame = frameOfClip(clip, moment.time);
  const known = clip.frames[frame];
  if (known !== undefined) return known;
  const cels = drawFrame(look, clip, moment.time);
  clip.frames[frame] = cels;
  return cels;
}

/** The number of the frame that a clip shows at a time; one for each picture that it shows. */
export function frameOfClip({ times }: Clip, time: number): number {
  const only = times[0];
  if (only === undefined) return 0;
  let frame = frameAt(only, time);
  for (let each = 1; each < times.length; each += 1) {
    const animation = times[each] as Animation;
    frame = frame * animation.frames + frameAt(animation, time);
  }
  return frame;
}

/** An animation of a look in one facing. */
export interface Clip {
  /** The animation that was asked for. */
  readonly animation: string;
  readonly facing: Facing;
  /** Back to front. */
  readonly layers: readonly Shown[];
  /** The animations that run at once, where some layers show another than the rest; together their frames are the frame. */
  readonly times: readonly Animation[];
  readonly frames: (readonly Cel[] | undefined)[];
}

/** A layer in a clip, with what is the same in all of its frames. */
interface Shown {
  readonly layer: LookLayer;
  /** The animation it shows. */
  readonly animation: Animation;
  /** The animation whose points it follows. */
  readonly wanted: Animation;
  readonly frames: readonly (DrawnFrame | undefined)[];
  readonly flip: boolean;
}

const clips = new WeakMap<Look, Map<string, Map<string, Clip>>>();

/** The clip of a look that a moment is of: the same one every time. @throws as `celsAt` does. */
export function clipOf(look: Look, { animation, facing }: Moment): Clip {
  const known = clips.get(look)?.get(animation)?.get(facing);
  if (known !== undefined) return known;
  const clip = makeClip(look, animation, requireKnown("facing", facing, look.rig.facings));
  const byAnimation = getOrInsert(clips, look, () => new Map<string, Map<string, Clip>>());
  getOrInsert(byAnimation, animation, () => new Map<string, Clip>()).set(facing, clip);
  return clip;
}

function makeClip(look: Look, asked: string, facing: Facing): Clip {
  const wanted = animationOf(look, asked);
  const depth = ({ depth: rest, depthByFacing }: LookLayer) =>
    depthByFacing.get(facing.id) ?? depthByFacing.get(facing.drawnAs) ?? rest;
  // Layers of equal depth keep the order of the look.
  const layers = look.layers
    .filter((layer) => isOnThisSide(layer, facing))
    .toSorted((one, other) => depth(one) - depth(other))
    .flatMap((layer): Shown[] => {
      const animation = shownAnimation(look.rig, layer, wanted);
      const found = animation && framesIn(layer.art, animation.id, facing);
      return animation === undefined || found === undefined ? [] : [{ layer, animation, wanted, ...found }];
    });
  // Points are where the wanted animation has them, whatever layers show.
  const moving = [...new Set(layers.map(({ animation }) => animation).concat(look.points.size > 0 ? wanted : []))];
  const times = moving.filter((one, at) => one.frames > 1 && moving.findIndex((other) => isAlike(one, other)) === at);
  return { animation: asked, facing, layers, times, frames: [] };
}

/** Whether two animations show frames of the same number at any time. */
function isAlike(one: Animation, other: Animation): boolean {
  if (one === other) return true;
  const said = ({ loop, ends, sequence }: Animation) => [loop, ends, sequence].join();
  return said(one) === said(other);
}

function isOnThisSide({ side, art }: LookLayer, facing: Facing): boolean {
  if (side === "both") return true;
  const isOwn = hasOwnArt(art, facing.id);
  return side === "drawn" ? isOwn || !facing.mirrored : facing.mirrored && !isOwn;
}

/** The animation a layer shows when one is wanted; `undefined` when it shows nothing then. */
export function shownAnimation(
  rig: Rig,
  { art: { frames }, otherwise }: LookLayer,
  wanted: Animation,
): Animation | undefined {
  if (frames.has("")) return wanted;
  const seen = new Set<string>();
  let animation: Animation | undefined = wanted;
  while (animation !== undefined && !frames.has(animation.id)) {
    if (otherwise === false || seen.has(animation.id)) return undefined;
    seen.add(animation.id);
    animation = rig.animations.get(otherwise.get(animation.id) ?? animation.otherwise ?? "");
  }
  return animation;
}

function drawFrame(look: Look, { layers, facing }: Clip, time: number): readonly Cel[] {
  const cels: Cel[] = [];
  for (const shown of layers) {
    const cel =
      shown.layer.attach === undefined
        ? celOf(look, shown, time)
        : attachedCel(look, shown, shown.layer.attach, facing, time);
    if (cel !== undefined) cels.push(cel);
  }
  return cels;
}

const corner: Point = { x: 0, y: 0 };

function celOf({ rig: { origin } }: Look, shown: Shown, time: number): Cel | undefined {
  const frame = frameOf(shown, time);
  if (frame === undefined) return undefined;
  const { layer, flip } = shown;
  const whole = drawnSize(frame.size, layer.scale);
  // A mirrored figure turns around its origin, which need not be the middle of the frame.
  const left = frame.at.x + layer.offset.x - origin.x;
  const y = frame.at.y + layer.offset.y - origin.y;
  return placed(shown, frame, { x: flip ? -left - whole.width : left, y }, whole, 0, corner);
}

function attachedCel(look: Look, shown: Shown, attach: Attachment, facing: Facing, time: number): Cel | undefined {
  const { layer, wanted, flip } = shown;
  const frame = frameOf(shown, time);
  if (frame === undefined) return undefined;
  const number = frameAt(wanted, time);
  const point = pointIn(look, attach.point, wanted, facing, number);
  const toward = attach.toward === undefined ? undefined : pointIn(look, attach.toward, wanted, facing, number);
  if (point === undefined || (attach.toward !== undefined && toward === undefined)) return undefined;
  const { size } = frame;
  const whole = drawnSize(size, layer.scale);
  const drawnPixel = (at: Point): Point => {
    const x = Math.min(whole.width - 1, Math.floor((at.x + 0.5) * layer.scale));
    const y = Math.min(whole.height - 1, Math.floor((at.y + 0.5) * layer.scale));
    return { x: flip ? whole.width - 1 - x : x, y };
  };
  const pivot = drawnPixel(attach.at ?? { x: Math.floor(size.width / 2), y: Math.floor(size.height / 2) });
  const along = attach.along === undefined ? undefined : drawnPixel(attach.along);
  const rotation = toward === undefined || along === undefined ? 0 : angle(point, toward) - angle(pivot, along);
  const x = point.x - pivot.x + (flip ? -layer.offset.x : layer.offset.x) - look.rig.origin.x;
  const y = point.y - pivot.y + layer.offset.y - look.rig.origin.y;
  return placed(shown, frame, { x, y }, whole, rotation, pivot);
}

function frameOf({ animation, frames }: Shown, time: number): DrawnFrame | undefined {
  return frames.length === 1 ? frames[0] : frames[frameAt(animation, time)];
}

/** The cel of a frame whose whole, blank edges included, is drawn at a place in a size. */
function placed(
  { layer, flip }: Shown,
  frame: DrawnFrame,
  at: Point,
  whole: Size,
  rotation: number,
  pivot: Point,
): Cel {
  const source = layer.art.pictures[frame.picture]?.cells[frame.cell] as Rectangle;
  const part = drawnPart(frame, source, whole);
  const across = flip ? whole.width - part.x - part.width : part.x;
  return {
    layer,
    image: layer.images[frame.picture] as string,
    source,
    frame,
    x: at.x + across,
    y: at.y + part.y,
    width: part.width,
    height: part.height,
    flip,
    rotation,
    pivot: across === 0 && part.y === 0 ? pivot : { x: pivot.x - across, y: pivot.y - part.y },
  };
}

function angle(from: Point, to: Point): number {
  return Math.atan2(to.y - from.y, to.x - from.x);
}
