import { getOrInsert } from "../base/get-or-insert.ts";
import type { CompiledBound, CompiledCondition, CompiledRule } from "../catalog/model/catalog.ts";
import { numbersIn } from "./mask.ts";
import type { Holders, Model } from "./model.ts";
import { type Program, ProgramBuilder } from "./search/program.ts";
import { always, type Literal, never } from "./search/trail.ts";
import { StatTerms } from "./stat-terms.ts";

/** What something in a program stands for, so that a proof can name it. */
export type Origin =
  | { readonly kind: "rule"; readonly rule: number }
  | { readonly kind: "need"; readonly slot: number; readonly value: number; readonly stat: number }
  | { readonly kind: "required"; readonly slot: number }
  /** That a slot is taken once. */
  | { readonly kind: "place"; readonly slot: number }
  /** What a rule gives while enough of its set is worn. */
  | { readonly kind: "set"; readonly rule: number };

/** A model as a program. */
export interface ModelProgram {
  readonly model: Model;
  readonly program: Program;
  /** By mark, its literal where it hangs on bodies, answers and signals; -1 elsewhere. */
  readonly given: readonly Literal[];
  /** By variable, a literal that holds where nothing is chosen. */
  readonly unchosen: readonly Literal[];
  /** What each literal guards, where a program has guards. */
  readonly guards: ReadonlyMap<Literal, Origin>;
  /** By rule, a literal under which the rule is broken, or gives what it gives; `never` where it cannot be. */
  readonly broken: readonly Literal[];
}

/** How a model is compiled. */
export interface Compiling {
  /** By stat, what there is without any part. */
  readonly base: Float64Array;
  /** Whether every rule, need and required slot is to count only while its guard holds. */
  readonly guarded?: boolean;
  /** Whether rules are to be broken on purpose. */
  readonly negated?: boolean;
  /** Stats of which nothing is known, since the game may add anything to them. */
  readonly openStats?: ReadonlySet<number>;
}

/** Compiles a model to a program. */
export function compileModel(model: Model, compiling: Compiling): ModelProgram {
  return new ModelCompiler(model, compiling).compile();
}

class ModelCompiler {
  readonly #model: Model;
  readonly #guarded: boolean;
  readonly #negated: boolean;
  readonly #openStats: ReadonlySet<number>;
  readonly #builder = new ProgramBuilder();
  readonly #terms: StatTerms;
  readonly #given: Literal[];
  readonly #marks = new Map<number, Literal>();
  readonly #guards = new Map<Literal, Origin>();

  constructor(model: Model, { base, guarded = false, negated = false, openStats = new Set() }: Compiling) {
    this.#model = model;
    this.#guarded = guarded;
    this.#negated = negated;
    this.#openStats = openStats;
    for (const { values } of model.variables) this.#builder.addChoice(values.length);
    this.#given = new Array<Literal>(model.holders.length).fill(-1);
    for (const { mark } of model.catalog.compiled.given) this.#given[mark] = this.#builder.add();
    this.#terms = new StatTerms(model, base, this.#builder);
  }

  compile(): ModelProgram {
    const model = this.#model;
    const { rules } = model.catalog.compiled;
    for (const slot of model.catalog.slots.values()) {
      const takers = this.#holders(model.takers[slot.number] ?? []);
      if (takers.length > 1) this.#count(takers, undefined, 1, this.#guard({ kind: "place", slot: slot.number }));
      if (slot.required) this.#fill(slot.number);
    }
    for (const { mark, count } of model.copies)
      this.#count(this.#holders(model.holders[mark] ?? []), undefined, count, always);
    for (const variable of model.variables.keys()) this.#need(variable);
    for (const [variable, { set }] of model.variables.entries()) {
      if (set === undefined) continue;
      const [missing = never, worn = never] = this.#builder.values[variable] ?? [];
      const marks = set.marks.map((mark) => this.#mark(mark));
      this.#reach({ marks, atLeast: set.atLeast, worn, missing }, this.#guard({ kind: "set", rule: set.rule }));
    }
    for (const [number, rule] of rules.entries()) this.#rule(rule, this.#guard({ kind: "rule", rule: number }));
    const broken = this.#negated ? rules.map((rule, number) => this.#negation(rule, number)) : [];
    return {
      model,
      given: this.#given,
      unchosen: model.variables.map(({ values }, variable) => this.#unchosen(variable, values)),
      guards: this.#guards,
      broken,
      program: this.#builder.build(),
    };
  }

  #guard(origin: Origin): Literal {
    if (!this.#guarded) return always;
    const literal = this.#builder.add();
    this.#guards.set(literal, origin);
    return literal;
  }

  #unchosen(variable: number, values: Model["variables"][number]["values"]): Literal {
    const free = [...values.keys()].filter((value) => values[value]?.kind !== "worn");
    return this.#builder.within(variable, free);
  }

  #holders(holders: Holders): readonly { readonly choice: number; readonly literal: Literal }[] {
    return holders.map(({ variable, mask }) => ({
      choice: variable,
      literal: this.#builder.within(variable, numbersIn(mask)),
    }));
  }

  /** A literal that holds where a mark is there. */
  #mark(mark: number): Literal {
    return getOrInsert(this.#marks, mark, () => {
      const holders = this.#holders(this.#model.holders[mark] ?? []).map(({ literal }) => literal);
      const given = this.#given[mark] ?? -1;
      return this.#builder.any(given < 0 ? holders : [given, ...holders]);
    });
  }

  #condition(condition: CompiledCondition): Literal {
    switch (condition.kind) {
      case "mark":
        return this.#mark(condition.mark);
      case "any":
        return this.#builder.any(condition.of.map((each) => this.#condition(each)));
      case "all":
        return this.#builder.all(condition.of.map((each) => this.#condition(each)));
      case "not":
        return condition.of.reduce((_, inner) => this.#condition(inner) ^ 1, never);
    }
  }

  /** Literals of which one holds where a condition comes out so. */
  #ways(condition: CompiledCondition, outcome: boolean): readonly Literal[] {
    switch (condition.kind) {
      case "not":
        return condition.of.flatMap((inner) => this.#ways(inner, !outcome));
      case "any":
      case "all":
        if ((condition.kind === "any") === outcome) return condition.of.flatMap((each) => this.#ways(each, outcome));
        return [outcome ? this.#condition(condition) : this.#condition(condition) ^ 1];
      case "mark":
        return [outcome ? this.#mark(condition.mark) : this.#mark(condition.mark) ^ 1];
    }
  }

  #rule(rule: CompiledRule, guard: Literal): void {
    switch (rule.kind) {
      case "exclusive":
        this.#builder.exclusions.push({
          holders: rule.marks.map((mark) => this.#holders(this.#model.holders[mark] ?? [])),
          guard,
        });
        return;
      case "implied":
        this.#builder.require([guard ^ 1, ...this.#ways(rule.when, false), ...this.#ways(rule.needs, true)]);
        return;
      case "counted": {
        const holders = rule.marks.flatMap((mark) => this.#holders(this.#model.holders[mark] ?? []));
        this.#count(holders, plain(rule.atLeast), plain(rule.atMost), guard);
        return;
      }
      case "bounded":
        if (this.#isOpen(rule)) return;
        if (rule.atMost !== undefined) this.#terms.atMost(rule.stat, rule.atMost, guard);
        if (rule.atLeast !== undefined) this.#terms.atLeast(rule.stat, rule.atLeast, guard);
        return;
      case "giving":
        return;
    }
  }

  /** Whether a rule bounds a stat of which nothing is known. */
  #isOpen({ stat, atLeast, atMost }: CompiledRule): boolean {
    const bounds = [atLeast, atMost].flatMap((bound) => (typeof bound === "object" ? [bound.stat] : []));
    return [stat, ...bounds].some((each) => this.#openStats.has(each));
  }

  /** Of some literals, so many hold, and no more than so many. */
  #count(
    holders: readonly { readonly literal: Literal }[],
    atLeast: number | undefined,
    atMost: number | undefined,
    guard: Literal,
  ): void {
    const literals = holders.map(({ literal }) => literal);
    if (atMost !== undefined)
      this.#terms.sum(
        literals.map((literal) => this.#terms.binary(literal, 1)),
        Math.floor(atMost),
        guard,
      );
    if (atLeast !== undefined)
      this.#terms.sum(
        literals.map((literal) => this.#terms.binary(literal, -1)),
        -Math.ceil(atLeast),
        guard,
      );
  }

  /** A required slot that shows neither a choice nor its default must be taken by a part of another slot. */
  #fill(slot: number): void {
    const values = this.#model.variables[slot]?.values ?? [];
    const covered = values.findIndex(({ kind }) => kind === "covered");
    const issuing = values.some(({ kind }) => kind === "issued");
    const others = ((issuing ? this.#model.choosers : this.#model.takers)[slot] ?? []).filter(
      ({ variable }) => variable !== slot,
    );
    const literal = this.#builder.values[slot]?.[covered] ?? never;
    // What is issued comes by itself; only where there is no default can the slot be empty.
    const guard = issuing ? always : this.#guard({ kind: "required", slot });
    this.#builder.require([guard ^ 1, literal ^ 1, ...this.#holders(others).map((holder) => holder.literal)]);
  }

  #need(variable: number): void {
    const { values = [] } = this.#model.variables[variable] ?? {};
    const stats = new Set(values.flatMap(({ needs }) => needs.map(({ stat }) => stat)));
    for (const stat of stats) {
      if (this.#openStats.has(stat)) continue;
      const needed = values.map(({ needs }) => {
        const bounds = needs.filter((need) => need.stat === stat).map(({ atLeast }) => atLeast);
        return bounds.length === 0 ? undefined : Math.max(...bounds);
      });
      if (!this.#guarded) this.#terms.need(variable, stat, needed, always);
      else {
        for (const [value, min] of needed.entries()) {
          if (min === undefined) continue;
          const alone = needed.map((_, each) => (each === value ? min : undefined));
          this.#terms.need(variable, stat, alone, this.#guard({ kind: "need", slot: variable, value, stat }));
        }
      }
    }
  }

  /** A literal holds while so many of some do, and another while they do not. */
  #reach({ marks, atLeast, worn, missing }: Reach, guard: Literal): void {
    const { binary, sum } = this.#terms;
    sum([binary(worn, atLeast), ...marks.map((mark) => binary(mark, -1))], 0, guard);
    const most = marks.length - atLeast + 1;
    sum([binary(missing, most), ...marks.map((mark) => binary(mark, 1))], atLeast - 1 + most, guard);
  }

  /** A literal under which a rule is broken, or gives what it gives. */
  #negation(rule: CompiledRule, number: number): Literal {
    const builder = this.#builder;
    const model = this.#model;
    switch (rule.kind) {
      case "exclusive": {
        const holders = rule.marks.map((mark) => this.#holders(model.holders[mark] ?? []));
        const pairs = holders.flatMap((having, one) =>
          having.map(({ choice, literal }) => {
            const others = holders.flatMap((each, other) =>
              other === one ? [] : each.filter((holder) => holder.choice !== choice),
            );
            return builder.all([literal, builder.any(others.map((holder) => holder.literal))]);
          }),
        );
        return builder.any(pairs);
      }
      case "implied":
        return builder.all([this.#condition(rule.when), this.#condition(rule.needs) ^ 1]);
      case "counted": {
        const holders = rule.marks.flatMap((mark) => this.#holders(model.holders[mark] ?? []));
        const ways: Literal[] = [];
        const [least, most] = [plain(rule.atLeast), plain(rule.atMost)];
        if (most !== undefined) this.#count(holders, Math.floor(most) + 1, undefined, this.#way(ways));
        if (least !== undefined) this.#count(holders, undefined, Math.ceil(least) - 1, this.#way(ways));
        return builder.any(ways);
      }
      case "bounded": {
        if (this.#isOpen(rule)) return always;
        const ways: Literal[] = [];
        if (rule.atMost !== undefined) this.#terms.atLeast(rule.stat, rule.atMost, this.#way(ways), "strictly");
        if (rule.atLeast !== undefined) this.#terms.atMost(rule.stat, rule.atLeast, this.#way(ways), "strictly");
        return builder.any(ways);
      }
      case "giving": {
        const set = model.catalog.compiled.sets.find((each) => each.rule === number);
        const marks = (set?.marks ?? []).map((mark) => this.#mark(mark));
        const guard = builder.add();
        this.#terms.sum(
          marks.map((mark) => this.#terms.binary(mark, -1)),
          -(set?.atLeast ?? 0),
          guard,
        );
        return guard;
      }
    }
  }

  #way(ways: Literal[]): Literal {
    const literal = this.#builder.add();
    ways.push(literal);
    return literal;
  }
}

/** Marks of which so many make a set that is worn. */
interface Reach {
  readonly marks: readonly Literal[];
  readonly atLeast: number;
  readonly worn: Literal;
  readonly missing: Literal;
}

/** A bound of a count, which is always a number. */
function plain(bound: CompiledBound | undefined): number | undefined {
  return typeof bound === "object" ? undefined : bound;
}
