import type { Catalog } from "../core/catalog/model/catalog.ts";
import type { Character } from "../core/character/character.ts";
import { celsAt } from "../core/look/cels-at.ts";
import type { Look, Moment } from "../core/look/look.ts";
import { resolveLook } from "../core/look/resolve-look.ts";
import { composeFrame } from "../core/raster/compose-frame.ts";
import type { Image, Images } from "../core/raster/image.ts";
import { type Worn, wornParts } from "../core/rules/worn.ts";

/** How much of a part has to be seen for it to be told from others. */
const enough = 0.5;
/** How much more of it is to be seen without something, for that to come off. */
const gain = 0.05;

/** A part of a slot on somebody. */
interface PartOn {
  readonly catalog: Catalog;
  readonly character: Character;
  readonly slot: string;
  readonly part: string;
}

/**
 * What lies over a part, so that hardly anything of it is seen: the slots to empty, as few as will do, what covers most first. On a picture to
 * choose by, a shirt is seen without the coat that is worn over it.
 *
 * @returns nothing where enough is seen, or nothing helps.
 */
export function coveringSlots(on: PartOn, images: Images): readonly string[] {
  if (inTheWay(on).length === 0) return [];
  const all = countSeen({ ...on, character: { ...on.character, loadout: {} } }, images);
  const without: string[] = [];
  let { character } = on;
  let seen = countSeen(on, images);
  while (seen < enough * all) {
    const now = character;
    const tries = inTheWay({ ...on, character: now })
      .map((worn) => ({ slot: worn.slot, bared: bared(now, [worn.slot]) }))
      .map((each) => ({ ...each, seen: countSeen({ ...on, character: each.bared }, images) }));
    const best = tries.reduce((one, other) => (other.seen > one.seen ? other : one), {
      slot: on.slot,
      bared: now,
      seen,
    });
    if (best.seen - seen < gain * all) break;
    without.push(best.slot);
    character = best.bared;
    seen = best.seen;
  }
  return seen < gain * all ? [] : without;
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

/** What is worn that can keep a part from being seen: it lies over it, or hides something. No other has to be looked at pixel by pixel. */
function inTheWay(on: PartOn): readonly Worn[] {
  const { catalog, character, slot, part } = on;
  const look = lookWith(on);
  const cels = celsAt(look, firstMoment(look));
  const lowest = Math.max(
    0,
    cels.findIndex(({ layer }) => layer.part === part),
  );
  const over = new Set(cels.slice(lowest).map(({ layer }) => layer.part));
  return wornParts(catalog, character).filter(
    (worn) => worn.slot !== slot && !worn.issued && (worn.part.hides.length > 0 || over.has(worn.part.id)),
  );
}

/** How many pixels differ because the part is there. */
function countSeen(on: PartOn, images: Images): number {
  const { part } = on;
  const look = lookWith(on);
  const moment = firstMoment(look);
  // Without something else, a layer may show whose picture was not fetched yet: it covers nothing until it is there.
  const layers = look.layers.filter((layer) => layer.images.every((image) => images.has(image)));
  const whole = composeFrame({ ...look, layers }, images, moment);
  const rest = composeFrame({ ...look, layers: layers.filter((layer) => layer.part !== part) }, images, moment);
  const one = pixelsOf(whole);
  const other = pixelsOf(rest);
  let seen = 0;
  for (let at = 0; at < one.length; at += 1) if (one[at] !== other[at]) seen += 1;
  return seen;
}

function pixelsOf({ data }: Image): Uint32Array {
  return new Uint32Array(data.buffer, data.byteOffset, data.length / 4);
}

/** The first frame of the first animation, as the first facing shows it. */
export function firstMoment({ rig }: Look): Moment {
  const animation = rig.animations.keys().next().value ?? "";
  return { animation, facing: rig.facings.keys().next().value ?? "", time: 0 };
}
