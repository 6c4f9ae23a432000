import { getOrInsert } from "../base/get-or-insert.ts";
import type { Catalog } from "../catalog/model/catalog.ts";

/** What is hashed by itself, so that a slot and a part of one name differ. */
export type HashedKind = "slot" | "part" | "channel" | "ramp" | "body";

/** How many bits distinguish slots and channels, and how many parts, ramps and bodies. */
export interface HashWidths {
  readonly place: number;
  readonly thing: number;
}

/**
 * Bits beyond those that distinguish what is there now, and how many there are at least: what is gone is seldom taken for another,
 * and catalogs can grow.
 */
const spare = { place: 5, thing: 8 };
const least = { place: 9, thing: 15 };
const widestHash = 30;

const known = new WeakMap<Catalog, HashWidths>();

/** The fewest bits that distinguish the ids of a catalog wherever one of them is meant, and some to spare. */
export function hashWidths(catalog: Catalog): HashWidths {
  return getOrInsert(known, catalog, () => {
    const place = Math.max(
      leastWidth("slot", [...catalog.slots.keys()]),
      leastWidth("channel", [...catalog.channels.keys()]),
    );
    let thing = leastWidth("body", [...catalog.bodies.keys()]);
    for (const slot of catalog.slots.values()) {
      const parts = slot.parts.map(({ id }) => id);
      thing = Math.max(thing, leastWidth("part", parts, thing));
    }
    for (const { ramps } of catalog.channels.values()) thing = Math.max(thing, leastWidth("ramp", ramps, thing));
    return {
      place: Math.min(Math.max(place + spare.place, least.place), widestHash),
      thing: Math.min(Math.max(thing + spare.thing, least.thing), widestHash),
    };
  });
}

function leastWidth(noun: HashedKind, ids: readonly string[], from = 1): number {
  for (let width = from; width < widestHash; width += 1) {
    if (new Set(ids.map((id) => idHash(noun, id, width))).size === ids.length) return width;
  }
  return widestHash;
}

/** The one of these ids that has a hash; `undefined` when none has, or more than one. */
export function findHashed(noun: HashedKind, ids: Iterable<string>, hash: number | undefined, width: number) {
  if (hash === undefined) return undefined;
  const found = [...ids].filter((id) => idHash(noun, id, width) === hash);
  return found.length === 1 ? found[0] : undefined;
}

/**
 * The first bits of a hash of an id: FNV-1a (G. Fowler, L. C. Noll, K.-P. Vo), its bits mixed as MurmurHash3 ends (A. Appleby).
 *
 * @param width - how many bits, 1 to 30.
 */
export function idHash(noun: HashedKind, id: string, width: number): number {
  let hash = 0x811c9dc5;
  for (const letter of `${noun}:${id}`) hash = Math.imul(hash ^ (letter.codePointAt(0) ?? 0), 0x01000193);
  hash = Math.imul(hash ^ (hash >>> 16), 0x85ebca6b);
  hash = Math.imul(hash ^ (hash >>> 13), 0xc2b2ae35);
  return width === 0 ? 0 : (hash ^ (hash >>> 16)) >>> (32 - width);
}
