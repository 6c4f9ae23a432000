import { getOrInsert } from "../base/get-or-insert.ts";
import type { Body, Catalog, Part } from "../catalog/model/catalog.ts";
import type { Evidence } from "../character/edit.ts";
import type { Broken } from "../rules/find-broken.ts";
import { compileModel, type ModelProgram, type Origin } from "./compile-model.ts";
import { baseOf, LoadoutSearch, statsBehind } from "./loadout-search.ts";
import { type Model, type Openness, openModel } from "./model.ts";
import type { Budget } from "./search/budget.ts";
import { always, type Literal, never } from "./search/trail.ts";

/** What may be besides what is asked. */
export interface ProverOptions extends Openness {
  /** The stats to which the game may add whatever it likes: nothing is called impossible for what they come to. */
  readonly raised?: ReadonlySet<string>;
}

type Bundles = readonly (readonly Literal[])[];

/** Proves what a body can never wear, and which of its rules can never be broken. */
export class Prover {
  readonly #model: Model;
  readonly #program: ModelProgram;
  readonly #search: LoadoutSearch;
  /** Stats of which nothing is known, by number. */
  readonly #openStats: ReadonlySet<number>;
  readonly #guards: readonly Literal[];
  readonly #guardBy: ReadonlyMap<string, Literal>;
  /** Guards that one link of a proof speaks of: the same need in several slots, for one. */
  readonly #bundles: readonly (readonly Literal[])[];
  /** By stat, the guards of the sets that give to it. */
  readonly #setGuards: readonly (readonly Literal[])[];
  /** The rule that is to be broken, if one is. */
  #firing: number | undefined;

  constructor(catalog: Catalog, body: Body, { raised, ...openness }: ProverOptions = {}) {
    const model = openModel(catalog, body, { ...openness, byNeed: true });
    const { stats } = catalog.compiled;
    const openStats = new Set([...stats.keys()].filter((number) => raised?.has(stats[number]?.id ?? "") === true));
    this.#model = model;
    this.#openStats = openStats;
    this.#program = compileModel(model, { base: baseOf(model, {}), guarded: true, negated: true, openStats });
    // Nobody wears two things in one place, whatever rules there are.
    const isPlace = (guard: Literal) => this.#program.guards.get(guard)?.kind === "place";
    const guards = [...this.#program.guards.keys()];
    this.#guards = guards.filter((guard) => !isPlace(guard));
    this.#guardBy = new Map([...this.#program.guards].map(([guard, origin]) => [keyOf(origin), guard]));
    const bundles = new Map<string, Literal[]>();
    for (const guard of this.#guards) {
      const link = JSON.stringify(this.#linkOf(this.#program.guards.get(guard)));
      getOrInsert(bundles, link, () => []).push(guard);
    }
    this.#bundles = [...bundles.values()];
    const { sets } = model.catalog.compiled;
    this.#setGuards = stats.map(({ id }) =>
      sets.flatMap(({ rule, gives }) => this.#guardsFor(Object.hasOwn(gives, id) ? { kind: "set", rule } : undefined)),
    );
    this.#search = new LoadoutSearch(
      model,
      {},
      {},
      { program: this.#program, guardsOf: (broken, values) => this.#guardsOf(broken, values) },
    );
    for (const guard of guards) if (isPlace(guard)) this.#search.engine.require(guard);
    const accepts = this.#search.engine.accepts;
    this.#search.engine.accepts = () => accepts?.() ?? this.#unfired();
  }

  /**
   * What must hold for something broken to count, with the sets that give to what it hangs on, since a proof has to name them; nothing
   * broken counts of which nothing is known.
   */
  #guardsOf(broken: Broken, values: readonly number[]): readonly Literal[] {
    const { compiled } = this.#model.catalog;
    const stats = statsBehind(broken, compiled);
    if (stats.some((stat) => this.#openStats.has(stat))) return [never];
    return [
      ...this.#guardsFor(this.#originOf(broken, values)),
      ...stats.flatMap((stat) => this.#setGuards[stat] ?? []),
    ];
  }

  #originOf(broken: Broken, values: readonly number[]): Origin | undefined {
    switch (broken.kind) {
      case "rule":
      case "never":
        return { kind: "rule", rule: broken.rule };
      case "need":
        return { kind: "need", slot: broken.slot, stat: broken.stat, value: values[broken.slot] ?? 0 };
      case "empty":
        return { kind: "required", slot: broken.slot };
      case "misplaced":
      case "misfit":
      case "taken-twice":
        return undefined;
    }
  }

  #guardsFor(origin: Origin | undefined): readonly Literal[] {
    const guard = origin === undefined ? undefined : this.#guardBy.get(keyOf(origin));
    return guard === undefined ? [] : [guard];
  }

  /** All that is in an answer in which a rule was to be broken and is not, to the last bit. */
  #unfired(): readonly Literal[] | undefined {
    const number = this.#firing;
    if (number === undefined || this.#program.broken[number] === always) return undefined;
    const values = this.#search.values();
    const state = this.#search.state(values);
    const { rules, sets } = this.#model.catalog.compiled;
    const rule = rules[number];
    if (rule !== undefined && state.breaks(rule)) return undefined;
    if (sets.some((set) => set.rule === number && state.isReached(set))) return undefined;
    const broken = this.#program.broken[number] ?? never;
    return [broken, ...values.map((value, variable) => this.#search.literal(variable, value))];
  }

  /** Adds the parts that are worn in some valid loadout. Each answer shows many, so few searches do. */
  addWearable(worn: Set<Part>, budget: Budget): void {
    for (const [variable, { values }] of this.#model.variables.entries()) {
      for (const [value, { parts }] of values.entries()) {
        if (parts.every((part) => worn.has(part)) || budget.steps <= 0) continue;
        if (this.#search.engine.search([...this.#guards, this.#search.literal(variable, value)], budget) !== "found")
          continue;
        for (const [each, shown] of this.#search.values().entries()) {
          for (const part of this.#model.variables[each]?.values[shown]?.parts ?? []) worn.add(part);
        }
      }
    }
  }

  /** Whether a rule can be broken, or gives what it gives, where all others hold. */
  canFire(rule: number, budget: Budget): boolean {
    const broken = this.#program.broken[rule] ?? never;
    if (broken === never) return false;
    const guards = this.#guards.map((guard) => {
      const origin = this.#program.guards.get(guard);
      return origin?.kind === "rule" && origin.rule === rule ? guard ^ 1 : guard;
    });
    this.#firing = rule;
    const outcome = this.#search.engine.search([...guards, broken], budget);
    this.#firing = undefined;
    return outcome === "found";
  }

  /**
   * Proves that no valid loadout has a part, as a chain of facts: where it would be worn, and then needs, rules and required slots
   * of which none can be left out, in the order in which they explain it.
   *
   * Leaves out one after another whatever the rest does not need: J. W. Chinneck, E. W. Dravnieks, "Locating minimal infeasible
   * constraint sets in linear programs" (1991), the deletion filter.
   */
  prove(part: Part, budget: Budget): readonly Evidence[] {
    const { engine } = this.#search;
    const places = this.#model.variables.flatMap(({ slot, values }, variable) => {
      const value = values.findIndex(({ parts }) => parts.includes(part));
      return slot === undefined || value < 0
        ? []
        : [{ slot, variable, value, issued: values[value]?.kind === "issued" }];
    });
    if (places.length === 0) return [];
    const somewhere = engine.add();
    engine.requireAny([somewhere ^ 1, ...places.map(({ variable, value }) => this.#search.literal(variable, value))]);
    return [
      { kind: "body", id: this.#model.body.id },
      ...places.map(({ slot, issued }): Evidence => ({ kind: "worn", part: part.id, slot: slot.id, issued })),
      ...this.#linksAgainst([somewhere], budget),
    ];
  }

  /**
   * Proves that no valid loadout has some parts, each in a slot, together: needs, rules and required slots of which none can be left out.
   *
   * @returns nothing where no rule is needed for that, since one takes the slot of another.
   */
  proveApart(parts: readonly { readonly slot: string; readonly part: string }[], budget: Budget): readonly Evidence[] {
    const literals = parts.map(({ slot, part }) => {
      const variable = this.#model.catalog.slots.get(slot)?.number ?? -1;
      const { values = [] } = this.#model.variables[variable] ?? {};
      return this.#search.literal(
        variable,
        values.findIndex((value) => value.parts.some(({ id }) => id === part)),
      );
    });
    return this.#linksAgainst(literals, budget);
  }

  /** What rules some literals out together, in the order in which it explains that. */
  #linksAgainst(literals: readonly Literal[], budget: Budget): readonly Evidence[] {
    const needed = this.#ordered(this.#conflictOf(literals, budget), literals);
    const links = needed.flatMap((guard) => this.#linkOf(this.#program.guards.get(guard)));
    // A part that goes in several slots needs the same in each: that is one reason.
    return [...new Map(links.map((link) => [JSON.stringify(link), link])).values()];
  }

  /** Guards that rule some literals out together, of which no link of a proof can be left out; sets are left out last. */
  #conflictOf(literals: readonly Literal[], budget: Budget): readonly Literal[] {
    const { engine } = this.#search;
    const isSet = ([guard = -1]: readonly Literal[]) => this.#program.guards.get(guard)?.kind === "set";
    const sets = this.#bundles.filter(isSet);
    // What is left out must not count, whatever it was before.
    const refuted = (kept: Bundles): Bundles | undefined => {
      const on = new Set(kept.flat());
      const off = this.#guards.filter((guard) => !on.has(guard)).map((guard) => guard ^ 1);
      if (engine.search([...literals, ...on, ...off], budget) !== "none") return undefined;
      return kept.filter((bundle) => bundle.some((guard) => engine.conflict.includes(guard)));
    };
    /** Leaves out of some bundles whatever the others rule the literals out without. */
    const fewest = (bundles: Bundles, others: Bundles): Bundles => {
      let needed = bundles;
      for (const bundle of [undefined, ...bundles]) {
        if (bundle !== undefined && !needed.includes(bundle)) continue;
        const left = needed.filter((each) => each !== bundle);
        const found = refuted([...left, ...others]);
        if (found !== undefined) needed = left.filter((each) => found.includes(each));
      }
      return needed;
    };
    const needed = fewest(
      this.#bundles.filter((bundle) => !isSet(bundle)),
      sets,
    );
    return [...needed, ...fewest(sets, needed)].flat();
  }

  /** Guards in an order in which each has something to say after those before it. */
  #ordered(guards: readonly Literal[], literals: readonly Literal[]): readonly Literal[] {
    const { engine } = this.#search;
    const ordered: Literal[] = [];
    const left = [...guards].sort((one, other) => one - other);
    let reached = engine.reach(literals);
    while (left.length > 0) {
      const reaches = left.map((guard) => engine.reach([...literals, ...ordered, guard]));
      const at = Math.max(
        0,
        reaches.findIndex((reach) => reach > reached + 1),
      );
      reached = reaches[at] ?? reached;
      ordered.push(...left.splice(at, 1));
    }
    return ordered;
  }

  #linkOf(origin: Origin | undefined): readonly Evidence[] {
    const { variables, catalog } = this.#model;
    switch (origin?.kind) {
      case "rule":
        return [{ kind: "rule", number: origin.rule, message: catalog.rules[origin.rule]?.message }];
      case "need": {
        const { parts = [], needs = [] } = variables[origin.slot]?.values[origin.value] ?? {};
        const min = needs.find(({ stat }) => stat === origin.stat)?.atLeast ?? 0;
        return [{ kind: "need", part: parts[0]?.id ?? "", stat: catalog.compiled.stats[origin.stat]?.id ?? "", min }];
      }
      case "set":
        return [{ kind: "set", number: origin.rule, message: catalog.rules[origin.rule]?.message }];
      case "place":
        return [];
      case "required":
        return [{ kind: "required", slot: variables[origin.slot]?.slot?.id ?? "" }];
      case undefined:
        return [];
    }
  }
}

function keyOf(origin: Origin): string {
  return JSON.stringify(Object.entries(origin).sort());
}
