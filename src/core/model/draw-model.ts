import { MantleError } from "../base/problem.ts";
import { requireKnown } from "../base/require-known.ts";
import type { Facing, Rectangle } from "../catalog/model/catalog.ts";
import type { Moment } from "../look/look.ts";
import { createImage, type Image } from "../raster/image.ts";
import { mountCrop } from "../raster/mount-crop.ts";
import { DepthCanvas } from "./depth-canvas.ts";
import { cornerSize, placeCorners, seenAt, type View } from "./place-corners.ts";
import type { Pose } from "./pose.ts";
import type { PreparedModel, PreparedPiece } from "./prepared-model.ts";

export interface DrawModelOptions {
  /** Pixels of the picture for each of the rig's frame, on a side. @defaultValue 1 */
  readonly scale?: number;
  /** How many samples a pixel has on a side; 1 leaves every pixel all there or not at all. @defaultValue 1 where the rig is crisp, else 3 */
  readonly samples?: number;
  /**
   * Draws only what a channel colors, `""` for what has colors of its own; what is before it still hides it. Every pixel has one of the colors of its
   * ramp then, and `samples` is 1. @defaultValue everything
   */
  readonly only?: string;
  /** How wide lines of ink are, in pixels of the rig's frame; 0 for none. @defaultValue what the rig says */
  readonly ink?: number;
}

/**
 * Draws a figure at a moment, without a graphics card: its corners follow the joints, what is nearest is seen, and light steps through the tones
 * of each ramp. The picture is the rig's frame, as the layers of a drawn figure fill it.
 *
 * What is nearest is found by a depth for each sample (E. Catmull, 1974). Ink is drawn where the figure ends, and where one piece stands well
 * before another.
 *
 * @throws MantleError `unknown-animation`, `unknown-facing`.
 * @example
 * drawModel(await prepareModel(look, models), { animation: "walk", facing: "west", time: 0.3 })
 */
export function drawModel(model: PreparedModel, moment: Moment, options: DrawModelOptions = {}): Image {
  const { width, height } = model.rig.frame;
  return drawWindow(model, stanceAt(model, moment), { x: 0, y: 0, width, height }, options);
}

/**
 * Draws one of the rig's crops of a figure, such as a portrait: around the point it names, as that is seen.
 *
 * @throws MantleError `unknown-crop`.
 * @example
 * drawModelCrop(await prepareModel(look, models), "portrait", { scale: 4 })
 */
export function drawModelCrop(model: PreparedModel, crop: string, options: DrawModelOptions = {}): Image {
  const found = requireKnown("crop", crop, model.rig.crops);
  const { animation, facing, point, rectangle } = found;
  const stance = stanceAt(model, { animation, facing, time: 0 });
  const at = point === undefined ? { x: 0, y: 0 } : pointSeen(model, stance, point);
  const picture = drawWindow(model, stance, { ...rectangle, x: rectangle.x + at.x, y: rectangle.y + at.y }, options);
  mountCrop(picture, found, options.scale);
  return picture;
}

export interface ModelIconOptions extends DrawModelOptions {
  /** @defaultValue the rig's first */
  readonly animation?: string;
  /** @defaultValue the rig's first */
  readonly facing?: string;
  /** Width and height of the icon, in pixels. @defaultValue `48` */
  readonly size?: number;
  /** How much of the icon is left around the part, on every side. @defaultValue `0.1` */
  readonly margin?: number;
}

/**
 * Draws the option icon of a part: a square around it, worn by a quiet figure.
 *
 * @param model - of the look from `iconLook`.
 * @throws MantleError `nothing-to-show` for a part without meshes.
 */
export function drawModelIcon(model: PreparedModel, part: string, options: ModelIconOptions = {}): Image {
  const { size = 48, margin = 0.1 } = options;
  const [animation = "", facing = ""] = [model.rig.animations, model.rig.facings].map((all) => [...all.keys()][0]);
  const stance = stanceAt(model, {
    animation: options.animation ?? animation,
    facing: options.facing ?? facing,
    time: 0,
  });
  const bounds = boundsOf(model, stance, part);
  if (bounds === undefined)
    throw new MantleError("nothing-to-show", `"${part}" has no mesh, so there is no icon of it.`);
  const side = Math.max(bounds.width, bounds.height) / (1 - 2 * margin);
  const [x, y] = [bounds.x + (bounds.width - side) / 2, bounds.y + (bounds.height - side) / 2];
  return drawWindow(model, stance, { x, y, width: side, height: side }, { ...options, scale: size / side });
}

/** A figure as it stands at a moment, and as it is looked at. */
export interface Stance {
  readonly pose: Pose;
  readonly view: View;
}

/** Seen so that a pixel of the frame is a sample. */
function stanceAt(model: PreparedModel, moment: Moment): Stance {
  const { rig, skeleton } = model;
  const facing = requireKnown("facing", moment.facing, rig.facings);
  const asked = requireKnown("animation", moment.animation, rig.animations);
  const shown = model.animations.get(asked.id) ?? asked.id;
  const clip = rig.model?.clips.get(shown) ?? shown;
  const length = skeleton.durationOf(clip);
  const pose = skeleton.pose(clip, asked.loop && length > 0 ? moment.time % length : moment.time);
  return { pose, view: viewOf(model, facing) };
}

function viewOf({ rig, scale: larger }: PreparedModel, { id, drawnAs }: Facing): View {
  const { turns, tilt = 0, scale = 1 } = rig.model ?? {};
  // What is drawn as the mirror image of another is turned the other way: a figure in three dimensions needs no mirror.
  const turn = turns?.get(id) ?? -(turns?.get(drawnAs) ?? 0);
  return {
    turn: (turn * Math.PI) / 180,
    tilt: (tilt * Math.PI) / 180,
    size: scale * larger,
    x: rig.origin.x,
    y: rig.origin.y,
  };
}

/** How much nearer a piece has to be than another for a line before it, in units of the model. */
const step = 0.02;

/** Draws what is seen in a rectangle of the frame. */
function drawWindow(
  { rig, pieces }: PreparedModel,
  stance: Stance,
  window: Rectangle,
  { scale = 1, only, samples = rig.crisp || only !== undefined ? 1 : 3, ink = rig.model?.ink ?? 1 }: DrawModelOptions,
): Image {
  return drawPieces(pieces, stance, window, { scale, samples, ink, only });
}

/** Draws pieces as they are seen in a rectangle. */
export function drawPieces(
  pieces: readonly PreparedPiece[],
  { pose, view }: Stance,
  window: Rectangle,
  { scale, samples, ink, only }: Omit<Required<DrawModelOptions>, "only"> & { readonly only?: string | undefined },
): Image {
  const density = scale * samples;
  const canvas = new DepthCanvas(
    Math.round(window.width * scale) * samples,
    Math.round(window.height * scale) * samples,
  );
  const near: View = {
    ...view,
    size: view.size * density,
    x: (view.x - window.x) * density,
    y: (view.y - window.y) * density,
  };
  for (const piece of pieces) canvas.draw(piece, placeCorners(piece, pose, near));
  const drawn = canvas.picture({ width: Math.round(ink * density), step: step * near.size }, only);
  return samples === 1 ? drawn : averaged(drawn, samples);
}

/** Where a point is seen in the frame, in pixels; where the figure stands, on a rig without it. */
function pointSeen({ rig, skeleton }: PreparedModel, { pose, view }: Stance, point: string): { x: number; y: number } {
  const place = rig.model?.points.get(point);
  const joint = place === undefined ? undefined : pose[skeleton.numbers.get(place.joint) ?? -1];
  if (place === undefined || joint === undefined) return { x: view.x, y: view.y };
  const [x, y] = seenAt(joint, place.offset, view);
  return { x: Math.round(x), y: Math.round(y) };
}

/** The rectangle of the frame in which a part is seen, behind others or not. */
function boundsOf({ pieces }: PreparedModel, { pose, view }: Stance, part: string): Rectangle | undefined {
  const box = [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const piece of pieces) {
    if (piece.part !== part) continue;
    const corners = placeCorners(piece, pose, view);
    for (let at = 0; at < corners.length; at += cornerSize)
      for (const axis of [0, 1]) {
        box[axis] = Math.min(box[axis] as number, corners[at + axis] as number);
        box[axis + 2] = Math.max(box[axis + 2] as number, corners[at + axis] as number);
      }
  }
  const [left = 0, top = 0, right = 0, bottom = 0] = box;
  return left > right ? undefined : { x: left, y: top, width: right - left, height: bottom - top };
}

/** The mean of samples, in which what is not there has no color. */
function averaged(image: Image, samples: number): Image {
  const small = createImage(image.width / samples, image.height / samples);
  const [from, to] = [image.data, small.data];
  for (let pixel = 0; pixel < small.width * small.height; pixel += 1) {
    const first = Math.floor(pixel / small.width) * samples * image.width + (pixel % small.width) * samples;
    let [red, green, blue, alpha] = [0, 0, 0, 0];
    for (let y = 0; y < samples; y += 1)
      for (let at = (first + y * image.width) * 4; at < (first + y * image.width + samples) * 4; at += 4) {
        // A sample is all there or not at all.
        if (from[at + 3] === 0) continue;
        red += from[at] as number;
        green += from[at + 1] as number;
        blue += from[at + 2] as number;
        alpha += 1;
      }
    if (alpha === 0) continue;
    to[pixel * 4] = red / alpha;
    to[pixel * 4 + 1] = green / alpha;
    to[pixel * 4 + 2] = blue / alpha;
    to[pixel * 4 + 3] = (alpha * 255) / (samples * samples);
  }
  return small;
}
