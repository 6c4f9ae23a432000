import { getOrInsert } from "../base/get-or-insert.ts";
import type { Catalog } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import { distinguish } from "../look/distinguish.ts";
import type { Look } from "../look/look.ts";
import { resolveLook } from "../look/resolve-look.ts";
import type { SeatPlace } from "./seat-place.ts";

/** At most so many can be distinguished by color. */
const most = 16;

interface Seated {
  readonly place: SeatPlace;
  readonly character: Character;
  readonly look: Look;
}

/**
 * Gives seats that look alike, the same pictures in the same ramp, ramps of a channel that differ as much as can be. Whoever shows the same pictures in
 * another ramp is distinguished from them too, and keeps it where that can be; seats that look like no other keep their own colors.
 *
 * @param channels - the first of them that the look shows is painted.
 */
export function distinctTints(
  catalog: Catalog,
  channels: readonly string[],
  places: readonly SeatPlace[],
  find: (id: string) => Character | undefined,
): void {
  const groups = new Map<string, Seated[]>();
  for (const place of places) {
    const character = find(place.id ?? "");
    if (character === undefined) continue;
    const look = resolveLook(catalog, character);
    const pictures = look.layers.map(({ images, art }) => [...images, art.key]).join();
    getOrInsert(groups, pictures, () => []).push({ place, character, look });
  }
  for (const group of groups.values()) tintGroup(catalog, channels, group);
}

/** Distinguishes those who show the same pictures, if any two of them also do so in the same ramp. */
function tintGroup(catalog: Catalog, channels: readonly string[], group: readonly Seated[]): void {
  const recolors = group.map(({ look }) => look.layers.flatMap(({ recolor }) => recolor ?? []));
  const channel = channels.find((id) => recolors[0]?.some((recolor) => recolor.channel === id));
  const shown = recolors.map((all) => all.find((recolor) => recolor.channel === channel)?.ramp);
  const areAlike = channel !== undefined && new Set(shown).size < group.length;
  const some = group.slice(0, most).map(({ character }) => character);
  const ramps = areAlike ? distinguish(catalog, some, { channel }).ramps : [];
  for (const [number, { place }] of group.entries()) {
    const ramp = ramps[number];
    if (ramp === place.tint?.ramp && channel === place.tint?.channel) continue;
    place.tint = ramp === undefined || channel === undefined ? undefined : { channel, ramp };
  }
}
