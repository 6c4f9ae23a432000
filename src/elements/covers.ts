import type { Catalog, Part } from "../core/catalog/model/catalog.ts";
import type { Character } from "../core/character/character.ts";
import { celsAt } from "../core/look/cels-at.ts";
import type { Look, LookLayer } from "../core/look/look.ts";
import { firstMoment } from "../core/look/moments.ts";
import { resolveLook } from "../core/look/resolve-look.ts";
import { composeFrame } from "../core/raster/compose-frame.ts";
import type { Images } from "../core/raster/image.ts";
import { wornParts } from "../core/rules/worn.ts";
import { areLoaded } from "./load-looks.ts";

/** How much of a part has to be seen for it to be told from others. */
const enough = 0.5;
/** How much more of it is to be seen without something, for that to come off. */
const gain = 0.05;
/** A pixel that covers what is behind it is of this color or a greater one: its alpha comes first, and is at least one half. */
const opaque = 0x80000000;

/** A part of a slot on somebody. */
interface PartOn {
  readonly catalog: Catalog;
  readonly character: Character;
  readonly slot: string;
  readonly part: string;
}

/** Marks a pixel that the body covers, or what cannot come off. */
const forGood = 1 << 30;

/**
 * What lies over a part, so that hardly anything of it is seen: the slots to empty, as few as will do, what covers most first. On a picture to
 * choose by, a shirt is seen without the coat that is worn over it.
 *
 * @returns nothing where enough is seen, or nothing helps.
 */
export function coveringSlots(on: PartOn, images: Images): readonly string[] {
  const { catalog, character, slot } = on;
  const worn = wornParts(catalog, character).filter((each) => each.slot !== slot && !each.issued);
  // Each once, in whatever slots it is; as many as a number has bits, besides the one for what stays.
  const removable = [...new Set(worn.map((each) => each.part))].slice(0, 30);
  if (removable.length === 0) return [];
  const covers = coversOfPixels(on, removable, images);
  /** How many pixels are seen without the parts of these bits. */
  const seenWithout = (off: number) => covers.filter((cover) => (cover & ~off) === 0).length;
  const all = seenWithout(~forGood);
  const without: string[] = [];
  let now: { readonly off: number; readonly seen: number } = { off: 0, seen: seenWithout(0) };
  while (now.seen < enough * all) {
    const { off, seen } = now;
    const [best] = removable
      .map((part, bit) => ({ part, off: off | (1 << bit), seen: seenWithout(off | (1 << bit)) }))
      .toSorted((one, other) => other.seen - one.seen);
    if (best === undefined || best.seen - seen < gain * all) break;
    without.push(...worn.flatMap((each) => (each.part === best.part ? [each.slot] : [])));
    now = best;
  }
  return now.seen < gain * all ? [] : without;
}

/** What covers each pixel of a part of all that can come off, a bit for each. */
function coversOfPixels(on: PartOn, removable: readonly Part[], images: Images): readonly number[] {
  const { character, part } = on;
  const isOwn = (layer: LookLayer) => layer.part === part;
  const ownLayers = (loadout: Character["loadout"]) =>
    lookWith({ ...on, character: { ...character, loadout } }).layers.filter(isOwn);
  const own = ownLayers({});
  const bits = new Map<string | undefined, number>();
  let hidden = 0;
  for (const [at, { id, hides, slots }] of removable.entries()) {
    bits.set(id, 1 << at);
    if (hides.length > 0 && ownLayers({ [slots[0] ?? ""]: id }).length < own.length) hidden |= 1 << at;
  }
  const look = lookWith(on);
  // What hides layers of the part does not draw over them: they are looked at all the same.
  const layers = [...look.layers.filter((layer) => !isOwn(layer)), ...own].filter((layer) =>
    // Pictures that were not fetched yet cover nothing until they are there.
    areLoaded(images, [layer]),
  );
  const moment = firstMoment(look);
  const draw = (some: readonly LookLayer[]) =>
    new Uint32Array(composeFrame({ ...look, opacity: 1, layers: some }, images, moment).data.buffer);
  // What covers each pixel of the part that nothing further in front has settled; less than nothing elsewhere.
  const now = Int32Array.from(draw(layers.filter(isOwn)), (color) => (color < opaque ? -1 : hidden));
  const settled: number[] = [];
  for (const { layer } of celsAt({ ...look, layers }, moment).toReversed()) {
    const drawn = draw([layer]);
    const bit = isOwn(layer) ? 0 : (bits.get(layer.part) ?? forGood);
    now.forEach((by, pixel) => {
      if (by < 0 || (drawn[pixel] as number) < opaque) return;
      now[pixel] = bit === 0 ? -1 : by | bit;
      if (bit === 0) settled.push(by);
    });
  }
  return settled;
}

/** Somebody without what is worn in some slots. */
export function bared(character: Character, without: readonly string[]): Character {
  if (without.length === 0) return character;
  const loadout = Object.fromEntries(Object.entries(character.loadout).filter(([slot]) => !without.includes(slot)));
  return { ...character, loadout };
}

function lookWith({ catalog, character, slot, part }: PartOn): Look {
  return resolveLook(catalog, { ...character, loadout: { ...character.loadout, [slot]: part } });
}
