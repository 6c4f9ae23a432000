import type { Look } from "../look/look.ts";
import { named } from "../look/named.ts";
import { composeFrame } from "./compose-frame.ts";
import { cropImage, type Image, type Images } from "./image.ts";

/**
 * Draws one of the rig's crops, such as a portrait, from the same layers as everything else, so that it is never out of date.
 *
 * @throws MantleError `unknown-crop`, `missing-picture`.
 * @example
 * const portrait = drawCrop(look, images, "portrait")
 */
export function drawCrop(look: Look, images: Images, crop: string): Image {
  const { animation, facing, rectangle } = named("crop", crop, look.rig.crops);
  return cropImage(composeFrame(look, images, { animation, facing, time: 0 }), rectangle);
}
