import { limits } from "../base/limits.ts";
import { MantleError } from "../base/problem.ts";
import type { Progress } from "../base/progress.ts";
import type { Look, Moment } from "../look/look.ts";
import { animationOf, timedFrames } from "../look/moments.ts";
import { type FrameMoment, type MomentsOptions, momentsOf } from "../look/moments-of.ts";
import { pointAt } from "../look/point-at.ts";
import { composeFrame, composeInto } from "./compose-frame.ts";
import { createImage, type Image, type Images, pasteImage } from "./image.ts";
import { type PackedPlace, type PackOptions, packPictures, trimPicture } from "./pack-pictures.ts";

export interface BakeOptions extends MomentsOptions {
  /**
   * Cuts the blank edges off every frame, keeps frames that look the same once, and packs them close, a pixel apart.
   *
   * @defaultValue `false`: whole frames in rows and columns
   */
  readonly packed?: boolean;
  /**
   * A picture to draw over, from an earlier bake of the same size: for whoever bakes again and again, since new memory costs about
   * as much as the drawing. One of another size is left alone.
   */
  readonly into?: Image;
  /** Draws a moment of a figure that is not seen in pictures, as `drawModel` does. @defaultValue `composeFrame` of the look */
  readonly draw?: (moment: Moment) => Image;
  /** Is called after each frame. */
  readonly onProgress?: (progress: Progress) => void;
}

export interface BakePagesOptions extends Omit<BakeOptions, "into">, PackOptions {
  /** Keeps a blank pixel for the frames in which nothing shows, for engines that draw no empty rectangle. @defaultValue `false` */
  readonly blank?: boolean;
}

/** A sheet of frames and the table of what is where. */
export interface BakedSheet {
  readonly image: Image;
  readonly table: FrameTable;
}

export interface FrameTable {
  readonly mantle: "frames/1";
  /** The file of the sheet, where it has one. */
  readonly image?: string;
  /** Width and height of a whole frame, in pixels. */
  readonly size: readonly [number, number];
  /** Where the figure stands inside each whole frame, in pixels. */
  readonly origin: readonly [number, number];
  /** Of the whole figure, 0 to 1: it is in the pixels already. */
  readonly opacity: number;
  /** How each animation is played. */
  readonly animations: Readonly<Record<string, BakedAnimation>>;
  readonly frames: readonly BakedFrame[];
}

export interface BakedAnimation {
  /** Which frames are shown, in their order. */
  readonly sequence: readonly number[];
  /** How long each place of the sequence is shown, in seconds. */
  readonly durations: readonly number[];
  /** Whether it begins again at its end. */
  readonly loop: boolean;
  /** Words that are emitted when a frame begins, by the frame. */
  readonly events?: Readonly<Record<string, readonly string[]>>;
}

export interface BakedFrame {
  readonly animation: string;
  readonly facing: string;
  /** Counted from 0. */
  readonly frame: number;
  /** Upper left corner, width and height in the sheet, in pixels; `[0, 0, 0, 0]` for a packed frame in which nothing shows. */
  readonly rect: readonly [number, number, number, number];
  /** Where the rectangle's upper left corner lies in the whole frame, in pixels. */
  readonly offset: readonly [number, number];
  /** The named points that are seen, in pixels of the whole frame. */
  readonly points: Readonly<Record<string, readonly [number, number]>>;
}

/**
 * Draws every frame of chosen animations and facings into one picture: a row for each animation and facing, a column for each
 * frame; or packed.
 *
 * Looks and pictures are plain data, so this can be called in a worker with what was posted to it.
 *
 * @throws MantleError `missing-picture`, `unknown-animation`, `unknown-facing`, `too-many-frames`, `picture-too-large`.
 * @example
 * const { image, table } = bakeSheet(look, images, { animations: ["idle", "walk"] })
 */
export function bakeSheet(look: Look, images: Images, options: BakeOptions = {}): BakedSheet {
  const poses = posesOf(look, options);
  const laid =
    options.packed === true ? packFrames(look, images, poses, options) : layFrames(look, images, poses, options);
  return sheetsOf(look, poses, laid, options)[0] as BakedSheet;
}

/**
 * Packs every frame of chosen animations and facings into as many sheets of a size as that takes, each with a table of the frames on it.
 *
 * @throws as `bakeSheet` does.
 * @example
 * bakeSheets(look, images, { packed: true, size: 1024, extrude: 1 })
 */
export function bakeSheets(look: Look, images: Images, options: BakePagesOptions = {}): readonly BakedSheet[] {
  const poses = posesOf(look, options);
  return sheetsOf(look, poses, packFrames(look, images, poses, options), options);
}

/** Sheets, and where each of the frames lies in them. */
interface LayerLayout {
  readonly pages: readonly Image[];
  readonly places: readonly PlacedFrame[];
}

function sheetsOf(
  look: Look,
  poses: readonly FrameMoment[],
  { pages, places }: LayerLayout,
  options: BakeOptions,
): readonly BakedSheet[] {
  const { origin, frame } = look.rig;
  const animations = Object.fromEntries(animationsOf(look, options).map((id) => [id, playing(look, id)]));
  const frames = poses.map(({ moment, frame: number }, at): BakedFrame => {
    const { x, y, width, height, offset } = places[at] ?? nowhere;
    const { animation, facing } = moment;
    return {
      animation,
      facing,
      frame: number,
      rect: [x, y, width, height],
      offset: [offset.x, offset.y],
      points: pointsIn(look, moment),
    };
  });
  return pages.map((image, page) => ({
    image,
    table: {
      mantle: "frames/1",
      size: [frame.width, frame.height],
      origin: [origin.x, origin.y],
      opacity: look.opacity,
      animations,
      frames: frames.filter((_, at) => (places[at] ?? nowhere).page === page),
    },
  }));
}

/** Where a frame lies in the sheet, and from where in the whole frame it was cut. */
interface PlacedFrame extends PackedPlace {
  readonly offset: { readonly x: number; readonly y: number };
}

const nowhere: PlacedFrame = { x: 0, y: 0, width: 0, height: 0, page: 0, offset: { x: 0, y: 0 } };

function animationsOf({ rig }: Look, { animations = [...rig.animations.keys()] }: BakeOptions): readonly string[] {
  return animations;
}

function playing(look: Look, id: string): BakedAnimation {
  const animation = animationOf(look, id);
  const durations = timedFrames(animation).map(({ duration }) => Number(duration.toFixed(6)));
  const { sequence, loop, events } = animation;
  return { sequence, durations, loop, ...(events.size === 0 ? {} : { events: Object.fromEntries(events) }) };
}

function posesOf(look: Look, options: BakeOptions): readonly FrameMoment[] {
  const facings = options.facings?.length ?? look.rig.facings.size;
  const count = animationsOf(look, options).reduce((sum, id) => sum + animationOf(look, id).frames * facings, 0);
  if (count > limits.bakedFrames)
    throw new MantleError(
      "too-many-frames",
      `${count} frames are too many for a sheet: ${limits.bakedFrames} is the most.`,
    );
  return momentsOf(look, options);
}

/** The picture given, if it is of this size, or a new one. */
function imageOf(width: number, height: number, into: Image | undefined): Image {
  return into?.width === width && into.height === height ? into : createImage(width, height);
}

/** Pixels by which a row of a strip is longer than it has to be. */
const slack = 16;

/**
 * Frames of a row are drawn side by side in a strip of their own, which stays in the processor's cache, and the strip is laid
 * into the sheet when it is whole. Its rows are a little longer than the sheet's: rows exactly 4,096 bytes apart would take each
 * other's place in the cache.
 */
function layFrames(
  look: Look,
  images: Images,
  poses: readonly FrameMoment[],
  { onProgress, into, draw }: BakeOptions,
): LayerLayout {
  const { width, height } = look.rig.frame;
  const columns = Math.max(0, ...poses.map(({ frame }) => frame + 1));
  const rows = Math.max(0, ...poses.map(({ row }) => row + 1));
  const image = imageOf(columns * width, rows * height, into);
  const strip = createImage(columns * width + slack, height);
  const places = poses.map(({ moment, frame, row }, number): PlacedFrame => {
    if (poses[number - 1]?.row !== row) strip.data.fill(0);
    if (draw === undefined) composeInto(strip, look, images, moment, frame * width, 0);
    else pasteImage(strip, draw(moment), frame * width, 0);
    if (poses[number + 1]?.row !== row) pasteImage(image, strip, 0, row * height);
    onProgress?.({ done: number + 1, total: poses.length });
    return { x: frame * width, y: row * height, width, height, page: 0, offset: { x: 0, y: 0 } };
  });
  return { pages: [image], places };
}

function packFrames(
  look: Look,
  images: Images,
  poses: readonly FrameMoment[],
  { onProgress, into, draw, packed: isCut, blank = false, ...options }: BakePagesOptions & Pick<BakeOptions, "into">,
): LayerLayout {
  const uncut = (picture: Image) => ({ picture, bounds: { x: 0, y: 0, width: picture.width, height: picture.height } });
  const nothing = blank ? uncut(createImage(1, 1)) : undefined;
  const cut = poses.map(({ moment }, number) => {
    const whole = draw?.(moment) ?? composeFrame(look, images, moment);
    onProgress?.({ done: number + 1, total: poses.length });
    return isCut === true ? (trimPicture(whole) ?? nothing) : uncut(whole);
  });
  const packed = packPictures(
    cut.map((each) => each?.picture),
    options,
    (width, height) => imageOf(width, height, into),
  );
  const places = cut.map((each, number): PlacedFrame => {
    const place = packed.places[number];
    return each === undefined || place === undefined
      ? nowhere
      : { ...place, offset: { x: each.bounds.x, y: each.bounds.y } };
  });
  return { pages: packed.pages, places };
}

function pointsIn(look: Look, moment: Moment): BakedFrame["points"] {
  const { origin } = look.rig;
  const seen = [...look.points.keys()].flatMap((name) => {
    const point = pointAt(look, name, moment);
    return point === undefined ? [] : [[name, [point.x + origin.x, point.y + origin.y]] as const];
  });
  return Object.fromEntries(seen);
}
