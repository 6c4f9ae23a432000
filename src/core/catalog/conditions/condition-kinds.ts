import type { Condition, PlainCondition } from "../model/catalog.ts";
import { body } from "./body.ts";
import { fact } from "./fact.ts";
import type { ConditionKind, OutfitParts } from "./kind.ts";
import { outfit } from "./outfit.ts";
import { part } from "./part.ts";
import { signal } from "./signal.ts";
import { slot } from "./slot.ts";
import { tag } from "./tag.ts";

type Kinds = { readonly [K in PlainCondition["kind"]]: ConditionKind<K> };

/** Every kind of condition, as authors write it. How one is judged and explained is in `core/rules/conditions`. */
export const conditionKinds: Kinds = { part, tag, slot, body, outfit, fact, signal };

/** The kind of a condition. */
export function kindOfCondition(condition: PlainCondition): ConditionKind<PlainCondition["kind"]> {
  return conditionKinds[condition.kind] as ConditionKind<PlainCondition["kind"]>;
}

/** A condition, or what it stands for where others make it hold. */
export function expanded(condition: PlainCondition, outfits: OutfitParts): Condition {
  return kindOfCondition(condition).expand?.(condition, outfits) ?? condition;
}
