import type { ArtCheck } from "./art/art-check.ts";
import { bakedIn } from "./checks/baked-in.ts";
import { blankFrames } from "./checks/blank-frames.ts";
import { cutByFrame } from "./checks/cut-by-frame.ts";
import { depthTies } from "./checks/depth-ties.ts";
import { elsewhere } from "./checks/elsewhere.ts";
import { floating } from "./checks/floating.ts";
import { offKey } from "./checks/off-key.ts";
import { otherScale } from "./checks/other-scale.ts";
import { outOfOrder } from "./checks/out-of-order.ts";
import { samePicture } from "./checks/same-picture.ts";
import { showsThrough } from "./checks/shows-through.ts";
import { softPixels } from "./checks/soft-pixels.ts";
import { strayPixels } from "./checks/stray-pixels.ts";

/** What is looked for in the pixels of a catalog; one more is a file and a line. */
export const artChecks: readonly ArtCheck[] = [
  blankFrames,
  samePicture,
  cutByFrame,
  offKey,
  floating,
  elsewhere,
  otherScale,
  outOfOrder,
  bakedIn,
  strayPixels,
  softPixels,
  showsThrough,
  depthTies,
];
