import type { CompiledBound, CompiledCondition, CompiledRule } from "../model/compiled.ts";
import type { Bound, Condition, EveryRule, Pattern, Rule, RuleOf } from "../model/rule.ts";
import type { RuleReader } from "../read/read-rule.ts";
import type { RuleSource } from "../schema/schema.ts";

/** Turns what rules speak of into the numbers of a catalog. */
export interface RuleCompiler {
  mark(pattern: Pattern): number;
  stat(id: string): number;
  bound(bound: Bound | undefined): CompiledBound | undefined;
  condition(condition: Condition): CompiledCondition;
}

/** A kind of rule as authors write it: what it may hold, what can be wrong with it, and what the engine makes of it. */
export interface RuleKind<K extends Rule["kind"]> {
  /** The key that makes a rule one of this kind. */
  readonly key: keyof RuleSource;
  /** What else it may hold, besides its message to players. */
  readonly others: readonly (keyof RuleSource)[];
  /** Reads a rule key by key, each with what knows its form; that reports what is wrong. */
  read(rule: RuleReader, every: EveryRule): RuleOf<K>;
  /** Compiles the rule to one of the few constraints that the engine judges and searches by. */
  compile(rule: RuleOf<K>, compiler: RuleCompiler): Partial<CompiledRule> & Pick<CompiledRule, "kind">;
  /** The conditions and stats it speaks of: slots that can change what comes of them can make a difference to one another. */
  speaksOf(rule: RuleOf<K>): { readonly conditions: readonly Condition[]; readonly stats: readonly string[] };
}
