import { requireKnown } from "../base/require-known.ts";
import type { Look } from "../look/look.ts";
import { pointAt } from "../look/point-at.ts";
import { composeFrame } from "./compose-frame.ts";
import { cropImage, type Image, type Images } from "./image.ts";
import { mountCrop } from "./mount-crop.ts";

/**
 * Draws one of the rig's crops, such as a portrait or a map token, from the same layers as everything else, so that it is never
 * out of date.
 *
 * @throws MantleError `unknown-crop`, `missing-picture`.
 * @example
 * const portrait = drawCrop(look, images, "portrait")
 */
export function drawCrop(look: Look, images: Images, crop: string): Image {
  const found = requireKnown("crop", crop, look.rig.crops);
  const { animation, facing, point, rectangle } = found;
  const moment = { animation, facing, time: 0 };
  const { origin } = look.rig;
  // A body without the point, or a moment in which it is not seen, is cropped where the figure stands.
  const at = point === undefined ? { x: -origin.x, y: -origin.y } : (pointAt(look, point, moment) ?? { x: 0, y: 0 });
  const [x, y] = [rectangle.x + at.x + origin.x, rectangle.y + at.y + origin.y];
  const picture = cropImage(composeFrame(look, images, moment), { ...rectangle, x, y });
  mountCrop(picture, found);
  return picture;
}
