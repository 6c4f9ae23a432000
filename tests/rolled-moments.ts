import { type Catalog, type Look, type Moment, resolveLook } from "zealous-mantle";
import { rollCharacter } from "zealous-mantle/solver";

/** How many slots stay empty of those that may: each picture that is worn has to be decoded. */
const emptyChance = 0.6;

/** So many moments of looks of so many rolled characters; the same ones for the same seed. */
export function rolledMoments(
  catalog: Catalog,
  count: number,
  looks: number,
  seed = 1,
): readonly { readonly look: Look; readonly moment: Moment }[] {
  const below = dice(seed);
  const rolled = Array.from({ length: looks }, (_, number) => {
    const signals = below(3) === 0 ? { "in-water": true } : {};
    return resolveLook(catalog, rollCharacter(catalog, { seed: seed * 1000 + number, emptyChance }), { signals });
  });
  return Array.from({ length: count }, (_, number) => {
    const look = rolled[number % looks] as Look;
    const pick = (ids: Iterable<string>) => {
      const all = [...ids];
      return all[below(all.length)] ?? "";
    };
    const moment = {
      animation: pick(look.rig.animations.keys()),
      facing: pick(look.rig.facings.keys()),
      time: below(200) / 40,
    };
    return { look, moment };
  });
}

/** Throws dice: whole numbers from 0, below a count. The generator of S. K. Park and K. W. Miller (1988). */
function dice(seed: number): (count: number) => number {
  let state = seed;
  return (count) => {
    state = (state * 16_807) % 2_147_483_647;
    return state % count;
  };
}
