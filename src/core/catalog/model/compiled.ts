import type { PlainCondition, StatModifier } from "./rule.ts";

/** Rules as integers: everything they can ask about is a *mark*, every stat they weigh is a number. */
export interface CompiledRules {
  /** By the number of the rule in the catalog. */
  readonly rules: readonly CompiledRule[];
  /** Mark by what it stands for: `part:storm-hat`, `tag:lamp`, `slot:coat`, `body:oak`, `fact:trade=pilot`, `signal:in-water`. */
  readonly marks: ReadonlyMap<string, number>;
  readonly partMarks: ReadonlyMap<string, number>;
  readonly tagMarks: ReadonlyMap<string, number>;
  /** The mark of each filled slot, by slot number; -1 where no rule asks. */
  readonly slotMarks: readonly number[];
  readonly slotNumbers: ReadonlyMap<string, number>;
  /** The marks that hold whatever is worn: of bodies, answers and signals. */
  readonly given: readonly { readonly condition: PlainCondition; readonly mark: number }[];
  /** The stats that rules and needs weigh. */
  readonly stats: readonly { readonly id: string; readonly min: number; readonly max: number }[];
  readonly statNumbers: ReadonlyMap<string, number>;
  /** By mark, the rules that can only be broken while it, or another that leads to them, is there. */
  readonly triggers: readonly (readonly number[])[];
  /** By mark, the `never` rules that have it. */
  readonly exclusive: readonly (readonly number[])[];
  /** By mark, the other rules that one more of it can break. */
  readonly more: MarkedRules;
  /** By stat, the totals that it can break. */
  readonly totals: readonly (readonly number[])[];
  /** The rules that can be broken with nothing worn at all. */
  readonly always: readonly number[];
  /** What rules give to stats. */
  readonly sets: readonly CompiledSet[];
  /** By stat, what sets give to it. */
  readonly bonuses: readonly (readonly (StatModifier & Threshold)[])[];
}

/** What is given to stats, by their ids, while so many of some marks are there. */
export interface CompiledSet extends Threshold {
  readonly rule: number;
  readonly gives: Readonly<Record<string, StatModifier>>;
}

/** So many of some marks, of which each counts once. */
export interface Threshold {
  readonly marks: readonly number[];
  readonly atLeast: number;
}

/** By mark, rules that one more of it can break. */
export interface MarkedRules {
  /** Counts, and rules whose `if` it can make hold. */
  readonly leading: readonly (readonly number[])[];
  /** Rules whose `needs` it can make fail, which matters only while their `if` holds. */
  readonly failing: readonly (readonly number[])[];
}

export type CompiledBound = number | { readonly stat: number };

/**
 * What a rule comes down to: two patterns exclude one another, one condition implies another, a stat is bounded, or a number of
 * marks; or stats are given something while so many marks are there, which nothing can break.
 *
 * All have one shape, with nothing where a kind has no use for it, so that judging them is one path
 * for the engine.
 */
export interface CompiledRule {
  readonly kind: "exclusive" | "implied" | "bounded" | "counted" | "giving";
  /** What excludes one another, is counted, or has to be there. */
  readonly marks: readonly number[];
  /** Of `implied`. */
  readonly when: CompiledCondition;
  readonly needs: CompiledCondition;
  /** Of `bounded`; -1 elsewhere. */
  readonly stat: number;
  /** Numbers, except of `bounded`. */
  readonly atLeast: CompiledBound | undefined;
  readonly atMost: CompiledBound | undefined;
  /** Of `giving`, by the id of the stat. */
  readonly gives: Readonly<Record<string, StatModifier>>;
}

/** A condition of any kind, in one shape. */
export interface CompiledCondition {
  readonly kind: "mark" | "any" | "all" | "not";
  /** Of `mark`; -1 elsewhere. */
  readonly mark: number;
  /** Of `any` and `all`; of `not`, one. */
  readonly of: readonly CompiledCondition[];
}

/** A part as rules see it, whatever slot it is in. */
export interface CompiledPart {
  /** Marks of the part, its tags and the slots it occupies, as far as rules ask about them. */
  readonly marks: readonly number[];
  /** The rules that its marks lead to, and the filling of its slot where it has only one. */
  readonly rules: readonly number[];
  /** The numbers of the slots it goes in. */
  readonly places: readonly number[];
  /** The numbers of the slots it occupies. */
  readonly covers: readonly number[];
  /** What it gives to the stats that are weighed. */
  readonly gives: readonly { readonly stat: number; readonly add: number; readonly times: number }[];
  readonly requires: readonly { readonly stat: number; readonly atLeast: number }[];
}
