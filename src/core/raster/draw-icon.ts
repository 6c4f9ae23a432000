import { MantleError } from "../base/problem.ts";
import type { Look } from "../look/look.ts";
import { composeFrame } from "./compose-frame.ts";
import { partBounds } from "./hit-test.ts";
import { cropImage, type Image, type Images } from "./image.ts";

export interface IconOptions {
  /** @defaultValue the rig's first */
  readonly animation?: string;
  /** @defaultValue the rig's first in which the part shows */
  readonly facing?: string;
  /** Pixels around the part on every side. @defaultValue `4` */
  readonly margin?: number;
  /** The least width and height, in pixels. @defaultValue `24` */
  readonly minSize?: number;
}

/**
 * Draws the option icon of a part: a square around the part, worn by a quiet figure.
 *
 * @param look - from `iconLook`.
 * @throws MantleError `missing-picture`, `nothing-to-show` for a part without a picture there.
 */
export function drawIcon(look: Look, images: Images, part: string, options: IconOptions = {}): Image {
  const { margin = 4, minSize = 24 } = options;
  const animation = options.animation ?? look.rig.animations.keys().next().value ?? "";
  for (const facing of options.facing === undefined ? look.rig.facings.keys() : [options.facing]) {
    const moment = { animation, facing, time: 0 };
    const bounds = partBounds(look, images, moment, part);
    if (bounds === undefined) continue;
    const side = Math.max(minSize, bounds.width + 2 * margin, bounds.height + 2 * margin);
    const x = Math.round(bounds.x + bounds.width / 2 - side / 2);
    const y = Math.round(bounds.y + bounds.height / 2 - side / 2);
    return cropImage(composeFrame(look, images, moment), { x, y, width: side, height: side });
  }
  throw new MantleError("nothing-to-show", `"${part}" has no picture, so there is no icon of it.`);
}
