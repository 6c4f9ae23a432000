import type { Catalog } from "../core/catalog/model/catalog.ts";
import type { Character } from "../core/character/character.ts";
import type { Look, Moment } from "../core/look/look.ts";
import { resolveLook } from "../core/look/resolve-look.ts";
import { composeFrame } from "../core/raster/compose-frame.ts";
import type { Images } from "../core/raster/image.ts";
import { wornParts } from "../core/rules/worn.ts";

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
  const { catalog, slot } = on;
  const isAlone = Object.keys(on.character.loadout).every((worn) => worn === slot);
  if (isAlone) return [];
  const all = countSeen({ ...on, character: { ...on.character, loadout: {} } }, images);
  const without: string[] = [];
  let { character } = on;
  let seen = countSeen(on, images);
  while (seen < enough * all) {
    const now = character;
    const tries = wornParts(catalog, now)
      .filter((worn) => worn.slot !== slot && !worn.issued)
      .map((worn) => ({ slot: worn.slot, bared: bared(now, [worn.slot]) }))
      .map((each) => ({ ...each, seen: countSeen({ ...on, character: each.bared }, images) }));
    const best = tries.reduce((one, other) => (other.seen > one.seen ? other : one), { slot, bared: now, seen });
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

/** How many pixels differ because the part is there. */
function countSeen({ catalog, character, slot, part }: PartOn, images: Images): number {
  const look = resolveLook(catalog, { ...character, loadout: { ...character.loadout, [slot]: part } });
  const moment = firstMoment(look);
  // Without something else, a layer may show whose picture was not fetched yet: it covers nothing until it is there.
  const layers = look.layers.filter((layer) => layer.images.every((image) => images.has(image)));
  const whole = composeFrame({ ...look, layers }, images, moment);
  const rest = composeFrame({ ...look, layers: layers.filter((layer) => layer.part !== part) }, images, moment);
  const [one, other] = [whole, rest].map(({ data }) => new Uint32Array(data.buffer, data.byteOffset, data.length / 4));
  let seen = 0;
  for (const [at, pixel] of one?.entries() ?? []) if (pixel !== other?.[at]) seen += 1;
  return seen;
}

/** The first frame of the first animation, as the first facing shows it. */
export function firstMoment({ rig }: Look): Moment {
  const animation = rig.animations.keys().next().value ?? "";
  return { animation, facing: rig.facings.keys().next().value ?? "", time: 0 };
}
