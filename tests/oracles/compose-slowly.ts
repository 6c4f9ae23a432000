import type { Image, Images, Look, Moment } from "zealous-mantle";
import type { Animation, Point } from "zealous-mantle/types";

type Layer = Look["layers"][number];
type Color = number[];

const clear: Color = [0, 0, 0, 0];

/**
 * Draws a look the slow, obvious way: every pixel of the frame asks every layer, back to front, for its color, and lays it over
 * what is there. No index planes, no runs, no tables, nothing skipped, and layouts, points and turns worked out afresh.
 */
export function composeSlowly(look: Look, images: Images, moment: Moment): Image {
  const { frame } = look.rig;
  const data = new Uint8ClampedArray(frame.width * frame.height * 4);
  const layers = shownLayers(look, moment);
  for (let y = 0; y < frame.height; y += 1) {
    for (let x = 0; x < frame.width; x += 1) {
      let under = clear;
      for (const layer of layers) under = over(colorOf(layer, images, moment, look, x, y), under);
      const [red = 0, green = 0, blue = 0, alpha = 0] = under;
      data.set([red, green, blue, Math.round(alpha * look.opacity)], (y * frame.width + x) * 4);
    }
  }
  return { width: frame.width, height: frame.height, data };
}

function facingOf(look: Look, moment: Moment) {
  const facing = look.rig.facings.get(moment.facing);
  if (facing === undefined) throw new Error("no such facing");
  return facing;
}

function shownLayers(look: Look, moment: Moment): readonly Layer[] {
  const facing = facingOf(look, moment);
  const depthOf = (layer: Layer) =>
    layer.depthByFacing.get(facing.id) ?? layer.depthByFacing.get(facing.drawnAs) ?? layer.depth;
  const shows = ({ side, art }: Layer) => {
    if (side === "both" || !facing.mirrored) return side !== "mirrored";
    const isOwn = [...art.frames.values()].some((byFacing) => byFacing.has(facing.id));
    return isOwn ? side === "drawn" : side === "mirrored";
  };
  return look.layers
    .filter(shows)
    .map((layer, number) => ({ layer, number }))
    .sort((a, b) => depthOf(a.layer) - depthOf(b.layer) || a.number - b.number)
    .map(({ layer }) => layer);
}

/** The color of a layer where a pixel of the frame is. */
function colorOf(layer: Layer, images: Images, moment: Moment, look: Look, x: number, y: number): Color {
  const { art, recolor, scale, attach, offset } = layer;
  const { origin } = look.rig;
  const facing = facingOf(look, moment);
  const animation = look.rig.animations.get(look.animations.get(moment.animation) ?? moment.animation);
  if (animation === undefined) throw new Error("not there");
  const frame = frameSlowly(animation, moment.time);
  const byFacing = art.frames.get(animation.id) ?? art.frames.get("");
  const isFlipped = facing.mirrored && !byFacing?.has(facing.id);
  const list = byFacing?.get(facing.id) ?? byFacing?.get(facing.drawnAs) ?? byFacing?.get("");
  const drawn = list?.[list.length === 1 ? 0 : frame];
  if (drawn === undefined) return clear;
  const { size, trim, at: corner } = drawn;
  const image = images.get(layer.images[drawn.picture] ?? "");
  const cell = art.pictures[drawn.picture]?.cells[drawn.cell];
  if (image === undefined || cell === undefined) throw new Error("not there");
  const wide = Math.max(1, Math.round(size.width * scale));
  const high = Math.max(1, Math.round(size.height * scale));
  // The place of the pixel's middle in the picture as it is drawn, before it is mirrored.
  let place = { x: x - corner.x - offset.x + 0.5, y: y - corner.y - offset.y + 0.5 };
  if (isFlipped) place = { x: 2 * origin.x - x - corner.x - offset.x - 0.5, y: place.y };
  if (attach !== undefined) {
    const point = pointSlowly(look, attach.point, animation.id, moment.facing, frame);
    const toward =
      attach.toward === undefined ? undefined : pointSlowly(look, attach.toward, animation.id, moment.facing, frame);
    if (point === undefined || (attach.toward !== undefined && toward === undefined)) return clear;
    const pixelAt = (at: Point): Point => {
      const across = Math.min(wide - 1, Math.floor((at.x + 0.5) * scale));
      const down = Math.min(high - 1, Math.floor((at.y + 0.5) * scale));
      return { x: isFlipped ? wide - 1 - across : across, y: down };
    };
    const pivot = pixelAt(attach.at ?? { x: Math.floor(size.width / 2), y: Math.floor(size.height / 2) });
    const along = attach.along === undefined ? undefined : pixelAt(attach.along);
    const rotation =
      toward === undefined || along === undefined
        ? 0
        : Math.atan2(toward.y - point.y, toward.x - point.x) - Math.atan2(along.y - pivot.y, along.x - pivot.x);
    const dx = x - point.x - (isFlipped ? -offset.x : offset.x);
    const dy = y - point.y - offset.y;
    // Turned back, around the middle of the pivot.
    place = {
      x: pivot.x + 0.5 + dx * Math.cos(rotation) + dy * Math.sin(rotation),
      y: pivot.y + 0.5 - dx * Math.sin(rotation) + dy * Math.cos(rotation),
    };
    if (isFlipped) place = { x: wide - place.x, y: place.y };
  }
  const cellX = Math.floor((place.x * size.width) / wide) - trim.x;
  const cellY = Math.floor((place.y * size.height) / high) - trim.y;
  if (cellX < 0 || cellY < 0 || cellX >= cell.width || cellY >= cell.height) return clear;
  const at = ((cell.y + cellY) * image.width + cell.x + cellX) * 4;
  let [red = 0, green = 0, blue = 0, alpha = 0] = image.data.subarray(at, at + 4);
  const key = recolor === undefined || alpha !== 255 ? -1 : recolor.key.indexOf(red * 65536 + green * 256 + blue);
  if (recolor !== undefined && key >= 0) {
    const color = recolor.colors[key] ?? 0;
    [red, green, blue] = [Math.floor(color / 65536), Math.floor(color / 256) % 256, color % 256];
  }
  alpha = Math.round(alpha * layer.opacity);
  return [red, green, blue, alpha];
}

/** The frame that is shown: the first whose end lies ahead. */
function frameSlowly({ sequence, ends }: Animation, time: number): number {
  const within = (time + 1e-9) % (ends.at(-1) ?? 1);
  return sequence[ends.findIndex((end) => end > within)] ?? 0;
}

/** A point in the frame: where it is drawn, or where its twin is, seen in a mirror. */
function pointSlowly(look: Look, name: string, animation: string, facing: string, frame: number): Point | undefined {
  const { mirrored, drawnAs } = look.rig.facings.get(facing) ?? { mirrored: false, drawnAs: facing };
  const shown = mirrored ? (look.rig.twins.get(name) ?? name) : name;
  const point = look.points.get(shown)?.get(animation)?.get(drawnAs)?.[frame];
  return point && mirrored ? { x: 2 * look.rig.origin.x - 1 - point.x, y: point.y } : point;
}

/** Source-over in exact whole numbers, rounded once at the end. */
function over([r1 = 0, g1 = 0, b1 = 0, a1 = 0]: Color, [r0 = 0, g0 = 0, b0 = 0, a0 = 0]: Color): Color {
  const whole = a1 * 255 + a0 * (255 - a1);
  if (whole === 0) return clear;
  const mix = (front: number, back: number) => Math.round((front * a1 * 255 + back * a0 * (255 - a1)) / whole);
  return [mix(r1, r0), mix(g1, g0), mix(b1, b0), Math.round(whole / 255)];
}
