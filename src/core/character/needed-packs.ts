import type { AddedBy, Catalog } from "../catalog/model/catalog.ts";
import type { Character } from "./character.ts";

/**
 * The character with the names of the packs that its choices come with, so that one that is not loaded some day can be asked for. Packs that are missing
 * today stay named as long as anything is kept that today's catalog does not know.
 *
 * Costs what the character holds, and nothing where there are no packs.
 */
export function withPacks(catalog: Catalog, character: Character): Character {
  const before = character.catalog.packs;
  if (catalog.packs.size === 0 && before === undefined) return character;
  const packs: Record<string, string> = {};
  let isAllKnown = true;
  for (const [section, id] of namedBy(character)) {
    const pack = catalog.packs.get(catalog.addedBy[section].get(id) ?? "");
    if (pack !== undefined) packs[pack.id] = pack.version;
    else if (!catalog[section].has(id)) isAllKnown = false;
  }
  if (!isAllKnown)
    for (const [id, version] of Object.entries(before ?? {})) if (!catalog.packs.has(id)) packs[id] = version;
  const { packs: _, ...own } = character.catalog;
  const names = Object.keys(packs).sort();
  if (names.length === Object.keys(before ?? {}).length && names.every((id) => before?.[id] === packs[id]))
    return character;
  const sorted = Object.fromEntries(names.map((id) => [id, packs[id] ?? ""]));
  return { ...character, catalog: names.length === 0 ? own : { ...own, packs: sorted } };
}

/** The packs that a character needs and the catalog does not have. */
export function missingPacks(catalog: Catalog, { catalog: { packs = {} } }: Character): readonly string[] {
  return Object.keys(packs).filter((id) => !catalog.packs.has(id));
}

/** Everything that a character names of a catalog. */
function* namedBy({ body, loadout, colors, bag, concealed }: Character): Iterable<readonly [keyof AddedBy, string]> {
  yield ["bodies", body];
  for (const worn of [loadout, concealed?.gear ?? {}])
    for (const [slot, part] of Object.entries(worn)) {
      yield ["slots", slot];
      yield ["parts", part];
    }
  for (const part of Object.keys(bag)) yield ["parts", part];
  for (const [channel, ramp] of Object.entries(colors)) {
    yield ["channels", channel];
    if (!ramp.startsWith("#")) yield ["ramps", ramp];
  }
  if (concealed !== undefined) yield ["outfits", concealed.by];
}
