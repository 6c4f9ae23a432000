import type { Catalog, Part } from "../../catalog/model/catalog.ts";

/** One of the things that are to be seen together: a part in a slot, a body, or a ramp of a channel. */
export type Item =
  | { readonly kind: "part"; readonly slot: string; readonly part: string }
  | { readonly kind: "body"; readonly body: string }
  | { readonly kind: "color"; readonly channel: string; readonly ramp: string };

/** What parts are to be seen with, besides parts of other slots. */
export type Company = "bodies" | "colors";

export interface ItemOptions {
  readonly slots: ReadonlySet<string>;
  readonly company: ReadonlySet<Company>;
}

/** Everything that is to be seen together, in groups of which a character shows one each. */
export interface ItemTable {
  readonly items: readonly Item[];
  /** By item, the number of its group: a slot, all bodies, a channel. */
  readonly groupOf: Int32Array;
  /** By group, how many items it has. */
  readonly sizes: readonly number[];
  /** Whether two items are to be seen together: of different groups, and one of them a part that the other makes a difference to. */
  areWanted(one: number, other: number): boolean;
}

/** Lists the items of a catalog. */
export function listItems(catalog: Catalog, { slots, company }: ItemOptions): ItemTable {
  const groups: Item[][] = [];
  for (const slot of catalog.slots.values()) {
    if (!slots.has(slot.id)) continue;
    if (slot.parts.length > 0)
      groups.push(slot.parts.map(({ id }): Item => ({ kind: "part", slot: slot.id, part: id })));
  }
  if (company.has("bodies")) groups.push([...catalog.bodies.keys()].map((body): Item => ({ kind: "body", body })));
  const painted = company.has("colors") ? paintedParts(catalog) : new Map<string, ReadonlySet<string>>();
  for (const [channel, { ramps }] of catalog.channels) {
    if (!painted.has(channel)) continue;
    groups.push(ramps.map((ramp): Item => ({ kind: "color", channel, ramp })));
  }
  const items = groups.flat();
  const groupOf = Int32Array.from(groups.flatMap((group, number) => group.map(() => number)));
  return {
    items,
    groupOf,
    sizes: groups.map(({ length }) => length),
    areWanted(one, other) {
      const [first, second] = [items[one], items[other]];
      if (first === undefined || second === undefined || groupOf[one] === groupOf[other]) return false;
      if (first.kind === "part")
        return second.kind !== "color" || painted.get(second.channel)?.has(first.part) === true;
      return second.kind === "part" && (first.kind === "body" || painted.get(first.channel)?.has(second.part) === true);
    },
  };
}

/** By channel, the parts that show its color. */
function paintedParts(catalog: Catalog): ReadonlyMap<string, ReadonlySet<string>> {
  const painted = new Map<string, Set<string>>();
  for (const part of catalog.parts.values()) {
    for (const channel of channelsOf(part)) painted.set(channel, (painted.get(channel) ?? new Set()).add(part.id));
  }
  return painted;
}

function channelsOf({ layers, meshes }: Part): readonly string[] {
  return [
    ...layers.flatMap(({ channel }) => channel ?? []),
    ...meshes.flatMap(({ channels }) => [...channels.values()]),
  ];
}
