import { getOrInsert } from "../base/get-or-insert.ts";
import { requireKnown } from "../base/require-known.ts";
import type { Animation, Attachment, CatalogIds, Facing, Point, Rectangle, Rig } from "../catalog/model/catalog.ts";
import type { Cel, Look, LookLayer, Moment } from "./look.ts";
import { animationOf, frameAt } from "./moments.ts";
import { pointIn } from "./point-at.ts";
import { rowOf } from "./sheet-layout.ts";

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
 * // → [{ layer, source: { x: 192, y: 400, width: 64, height: 80 }, x: -32, y: -76, flip: false, … }, …]
 */
export function celsAt<Ids extends CatalogIds>(look: Look<Ids>, moment: Moment<Ids>): readonly Cel[] {
  const clip = clipOf(look, moment);
  const { times } = clip;
  let frame = 0;
  for (let each = 0; each < times.length; each += 1) {
    const animation = times[each] as Animation;
    frame = frame * animation.frames + frameAt(animation, moment.time);
  }
  const known = clip.frames[frame];
  if (known !== undefined) return known;
  const cels = drawFrame(look, clip, moment.time);
  clip.frames[frame] = cels;
  return cels;
}

/** An animation of a look in one facing. */
interface Clip {
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
  readonly row: number;
  readonly flip: boolean;
  readonly width: number;
  readonly height: number;
}

const clips = new WeakMap<Look, Map<string, Map<string, Clip>>>();

function clipOf(look: Look, { animation, facing }: Moment): Clip {
  const known = clips.get(look)?.get(animation)?.get(facing);
  if (known !== undefined) return known;
  const clip = makeClip(look, animationOf(look, animation), requireKnown("facing", facing, look.rig.facings));
  const byAnimation = getOrInsert(clips, look, () => new Map<string, Map<string, Clip>>());
  getOrInsert(byAnimation, animation, () => new Map<string, Clip>()).set(facing, clip);
  return clip;
}

function makeClip(look: Look, wanted: Animation, facing: Facing): Clip {
  const depth = ({ depth: rest, depthByFacing }: LookLayer) =>
    depthByFacing.get(facing.id) ?? depthByFacing.get(facing.drawnAs) ?? rest;
  // Layers of equal depth keep the order of the look.
  const layers = look.layers
    .filter((layer) => isOnThisSide(layer, facing))
    .toSorted((one, other) => depth(one) - depth(other))
    .flatMap((layer): Shown[] => {
      const animation = shownAnimation(look.rig, layer, wanted);
      const place = animation && rowOf(layer.layout, animation.id, facing);
      if (animation === undefined || place === undefined) return [];
      const width = Math.max(1, Math.round(layer.layout.cell.width * layer.scale));
      const height = Math.max(1, Math.round(layer.layout.cell.height * layer.scale));
      return [{ layer, animation, wanted, row: place.row, flip: place.flip, width, height }];
    });
  const moving = layers.flatMap(({ layer, animation }) =>
    layer.attach === undefined ? [animation] : [animation, wanted],
  );
  const times = moving.filter(
    (one, at) =>
      one.frames > 1 &&
      moving.findIndex((other) => other.frames === one.frames && other.fps === one.fps && other.loop === one.loop) ===
        at,
  );
  return { facing, layers, times, frames: [] };
}

function isOnThisSide({ side, layout }: LookLayer, facing: Facing): boolean {
  if (side === "both") return true;
  const hasOwnArt = layout.facings !== "any" && layout.facings.includes(facing.id);
  return side === "drawn" ? hasOwnArt || !facing.mirrored : facing.mirrored && !hasOwnArt;
}

function shownAnimation(rig: Rig, { layout, otherwise }: LookLayer, wanted: Animation): Animation | undefined {
  if (layout.animations.length === 0) return wanted;
  const seen = new Set<string>();
  let animation: Animation | undefined = wanted;
  while (animation !== undefined && !layout.animations.includes(animation.id)) {
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

function celOf({ rig: { origin } }: Look, shown: Shown, time: number): Cel {
  const { layer, width, height, flip } = shown;
  // A mirrored figure turns around its origin, which need not be the middle of the frame.
  const left = layer.layout.at.x + layer.offset.x - origin.x;
  const y = layer.layout.at.y + layer.offset.y - origin.y;
  return {
    layer,
    source: sourceOf(shown, time),
    x: flip ? -left - width : left,
    y,
    width,
    height,
    flip,
    rotation: 0,
    pivot: corner,
  };
}

function attachedCel(look: Look, shown: Shown, attach: Attachment, facing: Facing, time: number): Cel | undefined {
  const { layer, wanted, width, height, flip } = shown;
  const frame = frameAt(wanted, time);
  const point = pointIn(look, attach.point, wanted, facing, frame);
  const toward = attach.toward === undefined ? undefined : pointIn(look, attach.toward, wanted, facing, frame);
  if (point === undefined || (attach.toward !== undefined && toward === undefined)) return undefined;
  const { cell } = layer.layout;
  const pivot = drawnPixel(shown, attach.at ?? { x: Math.floor(cell.width / 2), y: Math.floor(cell.height / 2) });
  const along = attach.along === undefined ? undefined : drawnPixel(shown, attach.along);
  const rotation = toward === undefined || along === undefined ? 0 : angle(point, toward) - angle(pivot, along);
  const x = point.x - pivot.x + (flip ? -layer.offset.x : layer.offset.x) - look.rig.origin.x;
  const y = point.y - pivot.y + layer.offset.y - look.rig.origin.y;
  return { layer, source: sourceOf(shown, time), x, y, width, height, flip, rotation, pivot };
}

function sourceOf({ layer: { layout }, animation, row }: Shown, time: number): Rectangle {
  const { width, height } = layout.cell;
  const column = layout.animations.length === 0 ? 0 : frameAt(animation, time);
  return { x: column * width, y: row * height, width, height };
}

/** Where a pixel of the cell lies in the rectangle that is drawn. */
function drawnPixel({ layer: { scale }, width, height, flip }: Shown, at: Point): Point {
  const x = Math.min(width - 1, Math.floor((at.x + 0.5) * scale));
  return { x: flip ? width - 1 - x : x, y: Math.min(height - 1, Math.floor((at.y + 0.5) * scale)) };
}

function angle(from: Point, to: Point): number {
  return Math.atan2(to.y - from.y, to.x - from.x);
}
