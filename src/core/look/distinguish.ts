import { type ColorVision, ciede2000, toLab } from "../base/color/difference.ts";
import { fitRamp } from "../base/color/ramp.ts";
import { MantleError } from "../base/problem.ts";
import { requireKnown } from "../base/require-known.ts";
import type { Catalog } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import { recolorFor } from "./recolor-for.ts";

export interface DistinguishOptions {
  /** The channel that distinguishes them. */
  readonly channel: string;
  /** Whose eyes have to see the difference. @defaultValue all four */
  readonly sights?: readonly ColorVision[];
}

export interface Distinction {
  /** The ramp for each character, in their order. */
  readonly ramps: readonly string[];
  /** The least difference between any two, in CIEDE2000 units for the eyes that see it least; below about 10 they look alike. */
  readonly difference: number;
}

/**
 * Chooses ramps of a channel so that no two characters look alike: of all choices, one whose two nearest ramps are farthest
 * distances, and of those, one in which as many as can be keep the ramp they have.
 *
 * The difference of two ramps is that of their colors, one by one and on average, by CIEDE2000 (M. R. Luo, G. Cui, B. Rigg, "The
 * development of the CIE 2000 colour-difference formula", 2001), for the eyes that see it least; color-blind eyes by the model of
 * G. M. Machado, M. M. Oliveira and L. A. F. Fernandes (2009). Where there are more characters than ramps, some share one.
 *
 * @param characters - at most 16.
 * @throws MantleError `unknown-channel`, `too-many`.
 * @example
 * distinguish(catalog, [wren, heron, tern], { channel: "oilcloth" }).ramps // → ["mustard", "indigo", "madder"]
 */
export function distinguish(
  catalog: Catalog,
  characters: readonly Pick<Character, "colors">[],
  { channel: id, sights = ["normal", "protan", "deutan", "tritan"] }: DistinguishOptions,
): Distinction {
  const channel = requireKnown("channel", id, catalog.channels);
  if (characters.length > 16) {
    throw new MantleError(
      "too-many",
      `${characters.length} characters cannot be distinguished by color. Give at most 16.`,
    );
  }
  const ramps = channel.ramps.map((ramp) => fitRamp(catalog.ramps.get(ramp)?.colors ?? [0], channel.key));
  const distances = ramps.map((one) => ramps.map((other) => differenceOf(one, other, sights)));
  const own = characters.map((character) => channel.ramps.indexOf(recolorFor(catalog, character, id)?.ramp ?? ""));
  const { choice, difference } = farthest(distances, own);
  return { ramps: choice.map((ramp) => channel.ramps[ramp] ?? channel.default), difference };
}

function differenceOf(one: readonly number[], other: readonly number[], sights: readonly ColorVision[]): number {
  const bySight = sights.map((sight) => {
    const differences = one.map((color, at) => ciede2000(toLab(color, sight), toLab(other[at] ?? 0, sight)));
    return differences.reduce((sum, each) => sum + each, 0) / differences.length;
  });
  return Math.min(...bySight);
}

/** For each character one of the ramps: first the greatest least difference for which there is a choice, then the most kept. */
function farthest(
  distances: readonly (readonly number[])[],
  own: readonly number[],
): { readonly choice: readonly number[]; readonly difference: number } {
  const differences = [...new Set(distances.flat())].toSorted((one, other) => other - one);
  let [low, high] = [0, differences.length - 1];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (extended(distances, differences[middle] ?? 0, [], own.length) === undefined) low = middle + 1;
    else high = middle;
  }
  const least = differences[low] ?? 0;
  const difference = own.length < 2 ? Number.POSITIVE_INFINITY : least;
  for (const keepers of subsets(own.length)) {
    const kept = own.filter((_, at) => keepers[at]);
    const isFarEnough = kept.every((one, at) =>
      kept.slice(0, at).every((other) => (distances[one]?.[other] ?? -1) >= least),
    );
    const rest = isFarEnough ? extended(distances, least, kept, own.length - kept.length) : undefined;
    if (rest === undefined) continue;
    let next = 0;
    return { choice: own.map((ramp, at) => (keepers[at] ? ramp : (rest[next++] ?? 0))), difference };
  }
  return { choice: own.map(() => 0), difference };
}

/** So many more ramps, none nearer than `least` to another or to those that are fixed; `undefined` when there are not so many. */
function extended(
  distances: readonly (readonly number[])[],
  least: number,
  fixed: readonly number[],
  count: number,
): readonly number[] | undefined {
  const chosen: number[] = [];
  // Whoever gets which does not matter here, so they are taken in rising order.
  const take = (from: number): boolean => {
    if (chosen.length === count) return true;
    for (let ramp = from; ramp < distances.length; ramp += 1) {
      const isFar = (other: number) => (distances[ramp]?.[other] ?? 0) >= least;
      if (!fixed.every(isFar) || !chosen.every(isFar)) continue;
      chosen.push(ramp);
      if (take(ramp)) return true;
      chosen.pop();
    }
    return false;
  };
  return take(0) ? chosen : undefined;
}

/** Every way to say yes or no so many times, the most yeses first. */
function subsets(count: number): readonly (readonly boolean[])[] {
  const all = Array.from({ length: 2 ** count }, (_, bits) =>
    Array.from({ length: count }, (_, at) => (bits >> at) % 2 === 1),
  );
  const size = (subset: readonly boolean[]) => subset.filter(Boolean).length;
  return all.toSorted((one, other) => size(other) - size(one));
}
