import type { CompiledBound, CompiledCondition, CompiledRule } from "../model/compiled.ts";
import type { Bound, Condition, EveryRule, Pattern, Rule, RuleOf, StatModifier } from "../model/rule.ts";

/** The keys that a rule may hold besides its message. */
export type RuleKey = "never" | "then" | "if" | "needs" | "total" | "count" | "set" | "gives" | "atLeast" | "atMost";

/** Reads the keys of a rule. What is missing or wrong is reported, and stands for nothing. */
export interface RuleKeys {
  /** Values that need no reading. */
  readonly source: { readonly then?: "displace" | "refuse" | undefined; readonly atLeast?: Bound | undefined };
  condition(key: "if" | "needs"): Condition;
  pattern(key: "count"): Pattern;
  patterns(key: "never" | "set"): readonly Pattern[];
  stat(key: "total"): string;
  gifts(key: "gives"): Readonly<Record<string, StatModifier>>;
  /** The bounds of something, of which there has to be one. */
  bounds(): { readonly atLeast: Bound | undefined; readonly atMost: Bound | undefined };
  /** The same, where only numbers will do. */
  numbers(): { readonly atLeast: number | undefined; readonly atMost: number | undefined };
  report(key: "atLeast", code: "bound-of-set", params: { readonly count: number }): void;
}

/** Turns what rules speak of into the numbers of a catalog. */
export interface RuleCompiler {
  mark(pattern: Pattern): number;
  stat(id: string): number;
  bound(bound: Bound | undefined): CompiledBound | undefined;
  condition(condition: Condition): CompiledCondition;
}

/** A condition in a rule, and the key that it is in. */
export interface KeyedCondition {
  readonly key: RuleKey;
  readonly condition: Condition;
}

/** A kind of rule as authors write it: what it may hold, what can be wrong with it, and what the engine makes of it. */
export interface RuleKind<K extends Rule["kind"]> {
  /** The key that makes a rule one of this kind. */
  readonly key: RuleKey;
  /** What else it may hold, besides its message to players. */
  readonly others: readonly RuleKey[];
  /** Reads a rule key by key, each with what knows its form; that reports what is wrong. */
  read(rule: RuleKeys, every: EveryRule): RuleOf<K>;
  /** Compiles the rule to one of the few constraints that the engine judges and searches by. */
  compile(rule: RuleOf<K>, compiler: RuleCompiler): Partial<CompiledRule> & Pick<CompiledRule, "kind">;
  /** The conditions and stats it speaks of: slots that can change what comes of them can make a difference to one another. */
  speaksOf(rule: RuleOf<K>): { readonly conditions: readonly KeyedCondition[]; readonly stats: readonly string[] };
}
