import { limits } from "../../base/limits.ts";
import * as f from "../../base/schema/forms.ts";
import { id } from "./schema-forms.ts";

const whole = f.number(f.whole);
const length = f.bounded(whole, f.min(0), f.max(limits.frameSize));
const pair = f.tuple([whole, whole]);
const part = f.bounded(whole, f.min(0));

/** One frame: what is left out is the same for all, so that a picture without a facing is for all facings. */
const frame = f.object({
  /** The animation. The same for all when left out. */
  animation: f.optional(id),
  /** The facing. The same for all when left out. */
  facing: f.optional(id),
  /** The frame, counted from 0. The same for all when left out. */
  frame: f.optional(f.bounded(part, f.max(limits.frames))),
  /** The picture it is in. That of the layer when left out. */
  image: f.optional(f.string(f.minLength(1))),
  /** Left, top, width and height in the picture, in pixels. */
  rect: f.tuple([part, part, length, length]),
  /** Where its upper left corner lies in a frame of `size`. */
  offset: f.optional(pair),
  /** Places of the figure in this frame, by name, in pixels of the frame. */
  points: f.optional(f.record(id, pair)),
});

const animation = f.object({
  /** The order in which frames are shown, each counted from 0. */
  sequence: f.optional(f.array(part)),
  /** How long each shown frame lasts, in seconds. */
  durations: f.optional(f.array(f.number())),
  /** Words that are emitted when a frame begins, by the frame. */
  events: f.optional(f.record(f.string(), f.array(f.string()))),
  /** Whether it begins again at its end. */
  loop: f.optional(f.boolean()),
});

/** The form of a frames table. */
export const framesSchema = f.object({
  /** The format, always `frames/1`. */
  mantle: f.literal("frames/1"),
  /** The file of the sheet, for engines that read the table. A layer names its picture itself. */
  image: f.optional(f.string(f.minLength(1))),
  /** Width and height of a frame before it was cut. The rig's when left out. */
  size: f.optional(f.tuple([length, length])),
  /** The point of such a frame that lies on the rig's origin. */
  origin: f.optional(pair),
  /** Of the whole figure, from 0 to 1. */
  opacity: f.optional(f.number()),
  /** How animations are played, by id, for engines that read the table. */
  animations: f.optional(f.record(id, animation)),
  /** Where each frame is. A frame that is not listed shows nothing. */
  frames: f.array(frame, f.maxLength(limits.bakedFrames)),
});

export type FramesSource = f.Valid<typeof framesSchema>;
