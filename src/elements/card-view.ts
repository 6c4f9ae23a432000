import type { ImageLoader } from "../browser/image-loader.ts";
import type { Catalog, Rectangle } from "../core/catalog/model/catalog.ts";
import type { Character } from "../core/character/character.ts";
import type { Look } from "../core/look/look.ts";
import { firstMoment } from "../core/look/moments.ts";
import { resolveLook } from "../core/look/resolve-look.ts";
import { composeFrame } from "../core/raster/compose-frame.ts";
import { partBounds } from "../core/raster/hit-test.ts";
import type { Images } from "../core/raster/image.ts";
import { visibleBounds } from "../core/raster/visible-bounds.ts";
import { coveringSlots } from "./covers.ts";
import { areLoaded, loadLooks } from "./load-looks.ts";

/** How large pictures on cards are, in CSS pixels. */
export const pictureWidth = 96;
export const pictureHeight = 132;

/** Pixels left beside what is shown, and above and below it. */
const margin = { across: 1, down: 4 };
const closest = 4;
/** How much of a figure its head is, at most. */
const head = 0.42;

/** How cards show what is to be chosen. */
export interface CardView {
  /** The part of the frame that is shown, in its pixels. */
  readonly frame: Rectangle;
  /** The slots whose parts come off, because they lie over what is to be chosen. */
  readonly without: readonly string[];
}

/** What cards are to show: the parts of a slot on a character, or, without a slot, the whole character. */
export interface ViewAsked {
  readonly catalog: Catalog;
  readonly character: Character;
  readonly slot: string | undefined;
  readonly parts: readonly string[];
  readonly loader: ImageLoader;
}

/** Some parts of a slot are enough to see how large they are. */
const tried = 4;

/** Finds how cards show what is asked: at once, or when the pictures are there; never when they cannot be had. */
export function findView(asked: ViewAsked, found: (view: CardView) => void): void {
  const { loader } = asked;
  const looks = looksOf(asked);
  const all = [looks.bare, ...looks.others, ...looks.worn.map(({ look }) => look)];
  const find = () => found(viewOf(asked, looks));
  if (all.every(({ layers }) => areLoaded(loader.images, layers))) find();
  else void loadLooks(loader, all).then((areThere) => areThere && find());
}

function viewOf(asked: ViewAsked, { bare, worn }: Pick<ReturnType<typeof looksOf>, "bare" | "worn">): CardView {
  const { slot, loader } = asked;
  const { images } = loader;
  const without = slot === undefined ? [] : coversOf(worn, (part) => coveringSlots({ ...asked, slot, part }, images));
  return { frame: closeView(worn, images) ?? figureView(bare, images), without };
}

/** What lies over the first two parts, as far as they need it off: nothing, where one of them is seen as it is. */
function coversOf(
  [one, other]: readonly { readonly part: string }[],
  covers: (part: string) => readonly string[],
): readonly string[] {
  const [first, second] = [one && covers(one.part), other];
  if (first === undefined || first.length === 0 || second === undefined) return first ?? [];
  const others = covers(second.part);
  return others.length < first.length ? others : first;
}

/** The character without anything chosen; with some of the parts, each alone; and with what else is worn, each alone: so that nothing hides it. */
function looksOf({ catalog, character, slot, parts }: ViewAsked) {
  const drawn = slot === undefined ? [] : parts.filter((id) => (catalog.parts.get(id)?.layers.length ?? 0) > 0);
  return {
    bare: resolveLook(catalog, { ...character, loadout: {} }),
    others: Object.entries(slot === undefined ? {} : character.loadout).map(([place, part]) =>
      resolveLook(catalog, { ...character, loadout: { [place]: part } }),
    ),
    worn: drawn.slice(0, tried).map((part) => {
      const alone = { ...character, loadout: slot === undefined ? {} : { [slot]: part } };
      return { look: resolveLook(catalog, alone), part };
    }),
  };
}

/** The part of the frame that shows a whole figure on a card, its feet at the bottom. */
function figureView(look: Look, images: Images): Rectangle {
  const { frame, origin } = look.rig;
  const box = visibleBounds(composeFrame(look, images, firstMoment(look))) ?? { x: 0, y: 0, ...frame };
  const scale = Math.max(1, Math.round(pictureHeight / (box.height + 2)));
  return around(origin.x, box.y + box.height + 1 - pictureHeight / scale / 2, scale);
}

/**
 * The part of the frame in which small things can be distinguished: closer than the whole figure, where all of the parts are small.
 *
 * @param worn - looks, and the part of each that it is about.
 */
function closeView(
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
  const figures = worn.flatMap(({ look }) => visibleBounds(composeFrame(look, images, firstMoment(look))) ?? []);
  const highest = Math.min(...figures.map(({ y }) => y)) - 2;
  const feet = Math.max(...figures.map(({ y, height }) => y + height)) + 1;
  // Small figures are larger than that already when they are seen whole.
  const whole = Math.floor(pictureHeight / (feet - highest + 1));
  for (let scale = Math.min(Math.max(closest, whole), Math.floor(fit)); scale >= 2; scale -= 1) {
    const view = around((left + right) / 2, (top + bottom) / 2, scale);
    // Nothing is to be seen above the highest of the figures, or below their feet.
    const y = Math.max(highest, Math.min(feet - view.height, view.y));
    // A head is seen whole or not at all.
    if (y === highest || y > highest + (feet - highest) * head) return { ...view, y };
    if (bottom <= highest + view.height) return { ...view, y: highest };
  }
  return undefined;
}

function around(x: number, y: number, scale: number): Rectangle {
  const width = Math.floor(pictureWidth / scale);
  const height = Math.floor(pictureHeight / scale);
  return { x: Math.round(x - width / 2), y: Math.round(y - height / 2), width, height };
}
