import type { Rectangle } from "../core/catalog/catalog.ts";
import type { Look } from "../core/look/look.ts";
import { composeFrame } from "../core/raster/compose-frame.ts";
import type { Images } from "../core/raster/image.ts";
import { partBounds } from "../core/raster/part-at.ts";
import { visibleBounds } from "../core/raster/visible-bounds.ts";

/** How large pictures on cards are, in CSS pixels. */
export const pictureWidth = 96;
export const pictureHeight = 132;

/** Pixels left beside what is shown, and above and below it. */
const margin = { across: 1, down: 4 };
const closest = 4;

/** The part of the frame that shows a whole figure on a card, its feet at the bottom. */
export function figureView(look: Look, images: Images): Rectangle {
  const { frame, origin } = look.rig;
  const box = visibleBounds(composeFrame(look, images, firstMoment(look))) ?? { x: 0, y: 0, ...frame };
  const scale = Math.max(1, Math.round(pictureHeight / (box.height + 2)));
  return around(origin.x, box.y + box.height + 1 - pictureHeight / scale / 2, scale);
}

/**
 * The part of the frame in which small things can be told apart: closer than the whole figure, where all of the parts are small.
 *
 * @param worn - looks, and the part of each that it is about.
 */
export function closeView(
  worn: readonly { readonly look: Look; readonly part: string }[],
  images: Images,
): Rectangle | undefined {
  const boxes = worn.flatMap(({ look, part }) => partBounds(look, images, firstMoment(look), part) ?? []);
  if (boxes.length === 0) return undefined;
  const left = Math.min(...boxes.map(({ x }) => x));
  const top = Math.min(...boxes.map(({ y }) => y));
  const right = Math.max(...boxes.map(({ x, width }) => x + width));
  const bottom = Math.max(...boxes.map(({ y, height }) => y + height));
  const fit = Math.min(
    pictureWidth / (right - left + 2 * margin.across),
    pictureHeight / (bottom - top + 2 * margin.down),
  );
  const scale = Math.min(closest, Math.floor(fit));
  if (scale < 2) return undefined;
  const view = around((left + right) / 2, (top + bottom) / 2, scale);
  // Nothing is to be seen above the highest of the figures, or below their feet.
  const figures = worn.flatMap(({ look }) => visibleBounds(composeFrame(look, images, firstMoment(look))) ?? []);
  const highest = Math.min(...figures.map(({ y }) => y)) - 2;
  const lowest = Math.max(...figures.map(({ y, height }) => y + height)) + 1 - view.height;
  return { ...view, y: Math.max(highest, Math.min(lowest, view.y)) };
}

function around(x: number, y: number, scale: number): Rectangle {
  const width = Math.floor(pictureWidth / scale);
  const height = Math.floor(pictureHeight / scale);
  return { x: Math.round(x - width / 2), y: Math.round(y - height / 2), width, height };
}

function firstMoment({ rig }: Look) {
  const animation = rig.animations.keys().next().value ?? "";
  return { animation, facing: rig.facings.keys().next().value ?? "", time: 0 };
}
