import type { CompiledBound, CompiledCondition, CompiledRule } from "../model/compiled.ts";
import type { Bound, Condition, EveryRule, Pattern, Rule, RuleOf } from "../model/rule.ts";
import type { Findings } from "../read/findings.ts";
import type { Entry } from "../read/source.ts";
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
  /** Which of its keys hold conditions or patterns, so that their ids can be looked up. */
  readonly conditions: readonly ("never" | "if" | "needs" | "count" | "set")[];
  /** Which of its keys hold stats. */
  readonly stats: readonly "total"[];
  /** Whether it has to be bounded: by numbers, or by stats too. */
  readonly bounds?: "numbers" | "numbers or stats";
  /** Finds what else can be wrong with a rule that has the form of one. */
  check?(rule: Entry<RuleSource>, findings: Findings): void;
  /** The rule that a source says; it has been checked. */
  read(source: RuleSource, every: EveryRule): RuleOf<K>;
  /** What it comes down to: one of the few things that the engine judges and searches by. */
  compile(rule: RuleOf<K>, compiler: RuleCompiler): Partial<CompiledRule> & Pick<CompiledRule, "kind">;
  /** The conditions and stats it speaks of: slots that can change what comes of them can make a difference to one another. */
  speaksOf(rule: RuleOf<K>): { readonly conditions: readonly Condition[]; readonly stats: readonly string[] };
}
