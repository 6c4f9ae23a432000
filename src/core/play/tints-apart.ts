import type { Catalog } from "../catalog/catalog.ts";
import type { Character } from "../character/character.ts";
import { distinguish } from "../look/distinguish.ts";
import { resolveLook } from "../look/resolve-look.ts";
import { recall } from "../recall.ts";
import type { SeatPlace } from "./seat-place.ts";

/** At most so many can be told apart by color. */
const most = 16;

/** Gives seats that look alike ramps of a channel that are far apart; seats that look like no other keep their own colors. */
export function tintsApart(
  catalog: Catalog,
  channel: string,
  places: readonly SeatPlace[],
  find: (id: string) => Character | undefined,
): void {
  const alike = new Map<string, { place: SeatPlace; character: Character }[]>();
  for (const place of places) {
    const character = find(place.id ?? "");
    if (character !== undefined)
      recall(alike, resolveLook(catalog, character).key, () => []).push({ place, character });
  }
  for (const group of alike.values()) {
    const some = group.slice(0, most);
    const ramps =
      group.length < 2
        ? []
        : distinguish(
            catalog,
            some.map(({ character }) => character),
            { channel },
          ).ramps;
    for (const [number, { place }] of group.entries()) {
      const ramp = ramps[number];
      if (ramp === place.tint?.ramp) continue;
      place.tint = ramp === undefined ? undefined : { channel, ramp };
    }
  }
}
