import { getOrInsert } from "../base/get-or-insert.ts";
import type { CompiledRules } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import { type Broken, findBroken } from "../rules/find-broken.ts";
import { LoadoutState } from "../rules/loadout-state.ts";
import { compileModel, type ModelProgram, type Origin } from "./compile-model.ts";
import type { Model } from "./model.ts";
import { Engine } from "./search/engine.ts";
import { holds, type Literal } from "./search/trail.ts";

const programs = new WeakMap<Model, Map<string, ModelProgram>>();

/** How many programs of a model are kept: one for each state of what the game adds to stats. */
const mostPrograms = 8;

/** The program of a model for what there is of each stat without any part, which hangs on what the game adds. */
function programOf(model: Model, base: Float64Array, guarded: boolean): ModelProgram {
  const kept = getOrInsert(programs, model, () => new Map<string, ModelProgram>());
  if (kept.size >= mostPrograms) kept.clear();
  return getOrInsert(kept, `${base.join(" ")} ${guarded}`, () => compileModel(model, { base, guarded }));
}

/** By stat, what there is of it without any part, on the body of a model. */
export function baseOf(model: Model, context: Context): Float64Array {
  const state = new LoadoutState(model.catalog);
  state.reset({ body: model.body.id, facts: {} }, context);
  return basesIn(state);
}

function basesIn(state: LoadoutState): Float64Array {
  return Float64Array.from(state.catalog.compiled.stats, (_, number) => state.stats.baseOf(number));
}

/** A program with guards, and which of them stands for what. */
export interface Guarding {
  readonly program?: ModelProgram;
  /** What must all hold for something broken to count. */
  readonly guardsOf?: (broken: Broken, values: readonly number[]) => readonly Literal[];
  /** What is broken and may stay so; nothing when left out. */
  readonly waived?: readonly Broken[];
}

/** Whether something in a program stands for what is broken: a need for that of every part that has it in its slot. */
function standsFor(origin: Origin, broken: Broken, model: Model): boolean {
  switch (broken.kind) {
    case "rule":
    case "never":
      return origin.kind === "rule" && origin.rule === broken.rule;
    case "need": {
      if (origin.kind !== "need" || origin.slot !== broken.slot || origin.stat !== broken.stat) return false;
      const { needs = [] } = model.variables[origin.slot]?.values[origin.value] ?? {};
      return needs.some(({ stat, atLeast }) => stat === broken.stat && atLeast === broken.atLeast);
    }
    case "empty":
      return origin.kind === "required" && origin.slot === broken.slot;
    case "taken-twice":
      return origin.kind === "place" && origin.slot === broken.slot;
    case "misplaced":
    case "misfit":
      return false;
  }
}

/** Looks for loadouts of a model; what is found is judged as `checkLoadout` judges. */
export class LoadoutSearch {
  readonly model: Model;
  readonly program: ModelProgram;
  readonly engine: Engine;
  readonly #facts: Character["facts"];
  readonly #context: Context;
  readonly #state: LoadoutState;
  /** What must all hold for something broken to count. */
  #guardsOf: (broken: Broken, values: readonly number[]) => readonly Literal[];

  constructor(
    model: Model,
    facts: Character["facts"],
    context: Context,
    { program, guardsOf = () => [], waived }: Guarding = {},
  ) {
    const state = new LoadoutState(model.catalog);
    state.reset({ body: model.body.id, facts }, context);
    this.model = model;
    this.program = program ?? programOf(model, basesIn(state), waived !== undefined);
    this.engine = new Engine(this.program.program);
    this.#facts = facts;
    this.#context = context;
    this.#state = state;
    this.#guardsOf = guardsOf;
    for (const [mark, literal] of this.program.given.entries()) {
      if (literal >= 0) this.engine.require((state.counts[mark] as number) > 0 ? literal : literal ^ 1);
    }
    if (waived !== undefined) this.#waive(waived);
    this.engine.accepts = () => this.#wrongIn(this.values());
  }

  /** Lets some things be broken. */
  #waive(waived: readonly Broken[]): void {
    for (const [guard, origin] of this.program.guards) {
      const isWaived = waived.some((broken) => standsFor(origin, broken, this.model));
      this.engine.require(isWaived ? guard ^ 1 : guard);
    }
    this.#guardsOf = (broken) => {
      const own = [...this.program.guards].find(([, origin]) => standsFor(origin, broken, this.model));
      return own === undefined ? [] : [own[0]];
    };
  }

  /** The literal of a value of a variable. */
  literal(variable: number, value: number): Literal {
    return this.program.program.table.values[variable]?.[value] ?? 1;
  }

  /** By variable, the number of the value that it has in the answer. */
  values(): readonly number[] {
    const { values } = this.engine.trail;
    return this.program.program.table.values.map((literals) =>
      literals.findIndex((literal) => values[literal] === holds),
    );
  }

  /** What does not hold with these values, by variable. */
  judge(values: readonly number[]): readonly Broken[] {
    return findBroken(this.state(values)).filter((broken) =>
      this.#guardsOf(broken, values).every((guard) => this.engine.has(guard)),
    );
  }

  /** What is worn with these values. Reused by the next call. */
  state(values: readonly number[]): LoadoutState {
    const { variables, body } = this.model;
    const state = this.#state;
    state.reset({ body: body.id, facts: this.#facts }, this.#context);
    for (const [variable, { slot, values: choices }] of variables.entries()) {
      const value = choices[values[variable] ?? -1];
      const part = value?.parts[0];
      if (slot !== undefined && value?.kind === "worn" && part !== undefined) state.put(slot.number, part);
      else if (value?.kind === "answer") for (const mark of value.marks) state.counts[mark] = 1;
    }
    state.issue();
    return state;
  }

  /** Values that cannot be together, where sums are so near to a bound that only judging them tells. */
  #wrongIn(values: readonly number[]): readonly Literal[] | undefined {
    const [broken] = this.judge(values);
    if (broken === undefined) return undefined;
    const guards = this.#guardsOf(broken, values);
    return [...guards, ...this.concernedBy(broken).map((variable) => this.literal(variable, values[variable] ?? 0))];
  }

  /** Variables on which it hangs that something is broken. */
  concernedBy(broken: Broken): readonly number[] {
    const stats = statsBehind(broken, this.model.catalog.compiled);
    if (stats.length === 0) return [...this.model.variables.keys()];
    const givers = this.#giversOf(stats);
    return broken.kind === "need" ? [...new Set([broken.slot, ...givers])] : givers;
  }

  #giversOf(stats: readonly number[]): readonly number[] {
    const { variables, holders } = this.model;
    return variables.flatMap(({ set, values }, variable) => {
      if (!values.some(({ gives }) => gives.some(({ stat }) => stats.includes(stat)))) return [];
      if (set === undefined) return [variable];
      return [variable, ...set.marks.flatMap((mark) => (holders[mark] ?? []).map((holder) => holder.variable))];
    });
  }
}

/** The numbers of the stats on which it hangs that a need or a bound does not hold. */
export function statsBehind(broken: Broken, { rules }: CompiledRules): readonly number[] {
  if (broken.kind === "need") return [broken.stat];
  const rule = broken.kind === "rule" ? rules[broken.rule] : undefined;
  if (rule?.kind !== "bounded") return [];
  const bounds = [rule.atLeast, rule.atMost].flatMap((bound) => (typeof bound === "object" ? [bound.stat] : []));
  return [rule.stat, ...bounds];
}
