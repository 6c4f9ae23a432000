import type { Catalog, Part } from "../../catalog/model/catalog.ts";

/** One of the things that are to be seen together: a part in a slot, a body, or a ramp of a channel. */
export type Item =
  | PartItem
  | { readonly kind: "body"; readonly body: string }
  | { readonly kind: "color"; readonly channel: string; readonly ramp: string };

export interface PartItem {
  readonly kind: "part";
  readonly slot: string;
  readonly part: string;
}

/** Parts of two slots, which are to be seen together with those of a third. */
export interface Couple {
  readonly kind: "couple";
  readonly of: readonly [one: PartItem, other: PartItem];
}

/** What parts are to be seen with, besides parts of other slots. */
export type Company = "bodies" | "colors";

export interface ItemOptions {
  readonly slots: ReadonlySet<string>;
  readonly company: ReadonlySet<Company>;
  /** How many parts are to be seen together. */
  readonly strength: 2 | 3;
}

/** Everything that is to be seen together, in groups of which a character shows one each. */
export interface ItemTable {
  readonly items: readonly (Item | Couple)[];
  /** By item, the number of its group: a slot, two slots, all bodies, a channel. */
  readonly groupOf: Int32Array;
  /** By item, the numbers of the parts that a couple is made of. They come before it. */
  readonly madeOf: readonly (readonly [number, number] | undefined)[];
  /** By group, how many items it has. */
  readonly sizes: readonly number[];
  /**
   * Whether two items are to be seen together: of different groups, and one of them a part that the other makes a difference to. A couple is to be
   * seen with parts of later slots, so that every three are one pair.
   */
  areWanted(one: number, other: number): boolean;
}

/** Lists the items of a catalog. */
export function listItems(catalog: Catalog, { slots, company, strength }: ItemOptions): ItemTable {
  const worn: PartItem[][] = [];
  for (const slot of catalog.slots.values()) {
    if (!slots.has(slot.id)) continue;
    // Who does not have what is retired never gets it.
    const parts = slot.parts.filter(({ retired }) => !retired);
    if (parts.length > 0) worn.push(parts.map(({ id }) => ({ kind: "part", slot: slot.id, part: id })));
  }
  const groups: (readonly (Item | Couple)[])[] = [...worn];
  if (strength === 3) groups.push(...couplesOf(worn));
  if (company.has("bodies")) groups.push([...catalog.bodies.keys()].map((body): Item => ({ kind: "body", body })));
  const painted = company.has("colors") ? paintedParts(catalog) : new Map<string, ReadonlySet<string>>();
  for (const [channel, { ramps }] of catalog.channels) {
    if (!painted.has(channel)) continue;
    groups.push(ramps.map((ramp): Item => ({ kind: "color", channel, ramp })));
  }
  const items = groups.flat();
  const numberOf = (slot: string) => catalog.slots.get(slot)?.number ?? -1;
  const isPainted = (channel: string, part: string) => painted.get(channel)?.has(part) === true;
  const groupOf = Int32Array.from(groups.flatMap((group, number) => group.map(() => number)));
  const numbers = new Map(items.map((item, number) => [item, number]));
  const madeOf = items.map((item) => {
    if (item.kind !== "couple") return undefined;
    return [numbers.get(item.of[0]) ?? -1, numbers.get(item.of[1]) ?? -1] as const;
  });
  return {
    items,
    groupOf,
    madeOf,
    sizes: groups.map(({ length }) => length),
    areWanted(one, other) {
      const [first, second] = [items[one], items[other]];
      if (first === undefined || second === undefined || groupOf[one] === groupOf[other]) return false;
      const [part, beside] = first.kind === "part" ? [first, second] : [second, first];
      if (part.kind !== "part") return false;
      if (beside.kind === "color") return isPainted(beside.channel, part.part);
      return beside.kind !== "couple" || beside.of.every(({ slot }) => numberOf(slot) < numberOf(part.slot));
    },
  };
}

/** A group for each two slots but the last, since a third comes after them. */
function couplesOf(worn: readonly (readonly PartItem[])[]): readonly (readonly Couple[])[] {
  const firsts = worn.slice(0, -1);
  return firsts.flatMap((ones, at) =>
    firsts
      .slice(at + 1)
      .map((others) => ones.flatMap((one) => others.map((other): Couple => ({ kind: "couple", of: [one, other] })))),
  );
}

/** What an item is made of: a couple, of its parts. */
export function singles(item: Item | Couple): readonly Item[] {
  return item.kind === "couple" ? item.of : [item];
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
