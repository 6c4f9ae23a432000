import { limits } from "../../base/limits.ts";
import * as f from "../../base/schema/forms.ts";
import { id } from "./schema-forms.ts";

const whole = f.number(f.whole);
const length = f.bounded(whole, f.min(0), f.max(limits.frameSize));
const pair = f.tuple([whole, whole]);
const part = f.bounded(whole, f.min(0));

/** One frame: what is left out is the same for all, so that a picture without a facing is for all facings. */
const frame = f.object({
  animation: f.optional(id),
  facing: f.optional(id),
  frame: f.optional(f.bounded(part, f.max(limits.frames))),
  image: f.optional(f.string(f.minLength(1))),
  rect: f.tuple([part, part, length, length]),
  offset: f.optional(pair),
  points: f.optional(f.record(id, pair)),
});

const animation = f.object({
  sequence: f.optional(f.array(part)),
  durations: f.optional(f.array(f.number())),
  loop: f.optional(f.boolean()),
});

/** The form of a frames table. */
export const framesSchema = f.object({
  mantle: f.literal("frames/1"),
  size: f.optional(f.tuple([length, length])),
  origin: f.optional(pair),
  opacity: f.optional(f.number()),
  animations: f.optional(f.record(id, animation)),
  frames: f.array(frame, f.maxLength(limits.bakedFrames)),
});

export type FramesSource = f.Valid<typeof framesSchema>;
