import type { Condition, PlainCondition } from "../model/catalog.ts";

/** The conditions of a kind. */
export type ConditionOf<K extends PlainCondition["kind"]> = Of<PlainCondition, K>;

type Of<C, K> = C extends { readonly kind: infer Kinds } ? (K extends Kinds ? C & { readonly kind: K } : never) : never;

/** A kind of condition as authors write it, `tag:lamp` or `fact:trade=pilot`: its word, a colon, an id, and a value for some. */
export interface ConditionKind<K extends PlainCondition["kind"]> {
  /** Whether a value follows its id. */
  readonly value: "never" | "always" | "sometimes";
  /** What its id names, so that it can be looked up; left out where any id will do. */
  readonly names?: "part" | "tag" | "slot" | "body" | "outfit";
  /**
   * What makes it hold: worn parts, which carry its mark; the body; an answer of the character or of the game, which the survey
   * of rules leaves open; or the conditions it stands for.
   */
  readonly by: "worn" | "body" | "answer" | "others";
  /** What it stands for, where others make it hold. */
  expand?(condition: ConditionOf<K>, outfits: OutfitParts): Condition;
}

/** The parts of each outfit. */
export type OutfitParts = ReadonlyMap<string, { readonly parts: readonly string[] }>;
