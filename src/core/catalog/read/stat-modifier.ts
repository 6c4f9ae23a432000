import type { StatModifier } from "../model/catalog.ts";
import type { GiftSource } from "../schema/schema-forms.ts";

const nothing: Readonly<Record<string, StatModifier>> = {};

/** Reads what is given to stats; its form has been checked by the schema. */
export function readGifts(
  source: Readonly<Record<string, GiftSource>> | undefined,
): Readonly<Record<string, StatModifier>> {
  // Most parts give nothing, and share it.
  if (source === undefined) return nothing;
  const gifts: Record<string, StatModifier> = {};
  for (const stat in source) gifts[stat] = readGift(source[stat] ?? 0);
  return gifts;
}

function readGift(source: GiftSource): StatModifier {
  return typeof source === "number" ? { add: source, times: 1 } : { add: source.add ?? 0, times: source.times ?? 1 };
}
