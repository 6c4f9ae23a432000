import { getOwn } from "../base/record.ts";
import type { Catalog, Outfit } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import { wornParts } from "../rules/worn.ts";

type Dressed = Pick<Character, "body" | "loadout" | "facts" | "concealed">;

const nothing: ReadonlyMap<string, string> = new Map();

/**
 * The gear that is worn and not seen, by slot, and the outfit that conceals it. It counts in every other way: stats, rules and holdings
 * know it as worn.
 *
 * An outfit whose `others` is `hide` conceals what was worn besides when it was put on, for as long as it is worn whole. What is put on
 * after it is seen.
 *
 * @example
 * concealedGear(catalog, wren).get("back") // → "lamp-festival"
 */
export function concealedGear(catalog: Catalog, character: Dressed): ReadonlyMap<string, string> {
  const { concealed, loadout } = character;
  const outfit = catalog.outfits.get(concealed?.by ?? "");
  if (concealed === undefined || outfit?.others !== "hide") return nothing;
  const worn = new Set(wornParts(catalog, character).map(({ part }) => part.id));
  if (!outfit.parts.every((part) => worn.has(part))) return nothing;
  const slots = Object.entries(concealed.gear).filter(([slot, part]) => getOwn(loadout, slot) === part);
  return new Map(slots.map(([slot]) => [slot, outfit.id]));
}

/** The character in an outfit that was just put on: what it conceals is noted, and what another concealed is seen again. */
export function conceal(catalog: Catalog, character: Character, outfit: Outfit): Character {
  if (outfit.others !== "hide") return reveal(character);
  const named = new Set(outfit.parts);
  const gear = Object.entries(character.loadout).filter(
    ([slot, part]) => catalog.slots.get(slot)?.kind === "gear" && !named.has(part),
  );
  if (gear.length === 0) return reveal(character);
  return { ...character, concealed: { by: outfit.id, gear: Object.fromEntries(gear) } };
}

/** The character with the gear of a slot seen, or with all of it. */
export function reveal(character: Character, slot?: string): Character {
  const { concealed, ...seen } = character;
  if (concealed === undefined || (slot !== undefined && getOwn(concealed.gear, slot) === undefined)) return character;
  const gear = Object.entries(concealed.gear).filter(([each]) => slot !== undefined && each !== slot);
  return gear.length === 0 ? seen : { ...seen, concealed: { ...concealed, gear: Object.fromEntries(gear) } };
}
