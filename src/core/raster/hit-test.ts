import type { Rectangle } from "../catalog/model/catalog.ts";
import { celsAt } from "../look/cels-at.ts";
import type { Look, Moment } from "../look/look.ts";
import { composeFrame } from "./compose-frame.ts";
import type { Images } from "./image.ts";
import { visibleBounds } from "./visible-bounds.ts";

/** What a pixel of a figure belongs to: the body itself, or a part. */
export type HitResult =
  | { readonly of: "body"; readonly part: undefined }
  | { readonly of: "part"; readonly part: string };

/** How much of a pixel a layer has to cover to be what one touches there, 0 to 255; less is a shadow. */
const tangible = 128;

/**
 * Finds what is in front at a pixel of a look's frame. Made for clicks: it draws layer by layer.
 *
 * @param x - in pixels of the frame, from its left edge; y from its upper edge.
 * @returns `undefined` where there is nothing.
 * @throws MantleError `missing-picture`, `unknown-animation`, `unknown-facing`.
 */
export function hitTest(look: Look, images: Images, moment: Moment, x: number, y: number): HitResult | undefined {
  const { width, height } = look.rig.frame;
  if (x < 0 || y < 0 || x >= width || y >= height) return undefined;
  const at = (Math.floor(y) * width + Math.floor(x)) * 4;
  for (const { layer } of [...celsAt(look, moment)].reverse()) {
    const { data } = composeFrame({ ...look, opacity: 1, layers: [layer] }, images, moment);
    if ((data[at + 3] ?? 0) >= tangible)
      return layer.part === undefined ? { of: "body", part: undefined } : { of: "part", part: layer.part };
  }
  return undefined;
}

/** The box around what a part shows of itself in a look at a moment, in pixels of the frame; `undefined` when it shows nothing. */
export function partBounds(look: Look, images: Images, moment: Moment, part: string): Rectangle | undefined {
  return visibleBounds(
    composeFrame({ ...look, layers: look.layers.filter((layer) => layer.part === part) }, images, moment),
  );
}
