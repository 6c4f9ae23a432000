import type { Gift } from "../model/catalog.ts";
import type { GiftSource } from "../schema/schema-forms.ts";

const nothing: Readonly<Record<string, Gift>> = {};

/** Reads what is given to stats; its form has been checked by the schema. */
export function readGifts(source: Readonly<Record<string, GiftSource>> | undefined): Readonly<Record<string, Gift>> {
  // Most parts give nothing, and share it.
  if (source === undefined) return nothing;
  const gifts: Record<string, Gift> = {};
  for (const stat in source) gifts[stat] = readGift(source[stat] ?? 0);
  return gifts;
}

function readGift(source: GiftSource): Gift {
  return typeof source === "number" ? { add: source, times: 1 } : { add: source.add ?? 0, times: source.times ?? 1 };
}
