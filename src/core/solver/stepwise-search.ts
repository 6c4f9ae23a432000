import type { Body, Catalog, Part } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import { LoadoutSearch } from "./loadout-search.ts";
import { type Model, type Openness, openModel } from "./model.ts";
import type { Budget } from "./search/budget.ts";
import { always, fails, holds, type Literal, never, open } from "./search/trail.ts";

/** A part in a slot. */
export interface Placed {
  readonly slot: string;
  readonly part: string;
}

/** Something that a loadout has or has not: some parts, all of them worn; or what holds for any, or for none. */
export type Trait = readonly Placed[] | "always" | "never";

/** A valid loadout that was found. */
export interface Dressing {
  /** By slot, the parts of which one is worn there: no rule distinguishes them. */
  readonly worn: ReadonlyMap<string, readonly Part[]>;
  readonly facts: Character["facts"];
}

/**
 * Puts loadouts of a body together trait by trait, with everything that follows from what was chosen, so that what is chosen next is possible as
 * far as is known; and completes them to valid ones. Traits are named by their place in the list they are given in.
 */
export class StepwiseSearch {
  readonly #model: Model;
  readonly #search: LoadoutSearch;
  /** By trait, the literal that holds where a loadout has it. */
  readonly #literals: Int32Array;

  constructor(catalog: Catalog, body: Body, openness: Openness, traits: readonly Trait[]) {
    this.#model = openModel(catalog, body, openness);
    this.#search = new LoadoutSearch(this.#model, {}, {});
    this.#literals = Int32Array.from(traits, (trait) => this.#literalOfTrait(trait));
    this.#search.engine.decide = () => this.#plainest();
    this.#search.engine.settle();
  }

  /** Goes back to where nothing is chosen. `false` when there is no valid loadout at all, as far as is known. */
  reset(): boolean {
    return this.#search.engine.settle();
  }

  /** Whether nothing that is chosen now keeps a loadout from having a trait, as far as is known. */
  mayHave(trait: number): boolean {
    return this.#search.engine.trail.values[this.#literals[trait] as number] !== fails;
  }

  /** Whether the loadout that was found has a trait. */
  has(trait: number): boolean {
    return this.#search.engine.trail.values[this.#literals[trait] as number] === holds;
  }

  /** Chooses a trait. `false`, with nothing chosen, where what was chosen before rules it out. */
  choose(trait: number): boolean {
    const { engine } = this.#search;
    const literal = this.#literals[trait] as number;
    if (engine.has(literal) || engine.push(literal)) return true;
    engine.pop();
    return false;
  }

  /** Chooses a trait alone, and calls with it chosen; forgets the trait where it rules itself out. */
  probe(trait: number, call: () => void): void {
    const { engine } = this.#search;
    const literal = this.#literals[trait] as number;
    const isPossible = engine.push(literal);
    if (isPossible) call();
    engine.pop();
    if (!isPossible) engine.require(literal ^ 1);
  }

  /** Looks for a valid loadout with some traits, whatever else was chosen; the rest is as plain as can be. */
  find(traits: readonly number[], budget: Budget): "found" | "none" | "gave-up" {
    return this.#search.engine.search(
      traits.map((trait) => this.#literals[trait] as number),
      budget,
    );
  }

  /** Whether a trait is one of those that no valid loadout has together, after `find` found none. */
  isInConflict(trait: number): boolean {
    return this.#search.engine.conflict.includes(this.#literals[trait] as number);
  }

  /** What `find` found. */
  found(): Dressing {
    const { catalog, variables } = this.#model;
    const values = this.#search.values();
    const worn = new Map<string, readonly Part[]>();
    const facts: Record<string, string> = {};
    for (const [variable, { slot, values: choices }] of variables.entries()) {
      const value = choices[values[variable] ?? -1];
      if (value?.kind === "worn" && slot !== undefined) worn.set(slot.id, value.parts);
      if (value?.kind === "answer") Object.assign(facts, answersOf(catalog, value.marks));
    }
    return { worn, facts };
  }

  #literalOfTrait(trait: Trait): Literal {
    if (typeof trait === "string") return trait === "always" ? always : never;
    return trait.map((placed) => this.#literalOf(placed)).reduce((one, other) => this.#both(one, other));
  }

  #literalOf({ slot, part }: Placed): Literal {
    const variable = this.#model.catalog.slots.get(slot)?.number ?? -1;
    const { values = [] } = this.#model.variables[variable] ?? {};
    const value = values.findIndex(({ parts }) => parts.some(({ id }) => id === part));
    return value < 0 ? never : this.#search.literal(variable, value);
  }

  /** A literal that holds where two others hold. */
  #both(first: Literal, second: Literal): Literal {
    if (first === never || second === never) return never;
    const { engine } = this.#search;
    const both = engine.add();
    engine.requireAny([both ^ 1, first]);
    engine.requireAny([both ^ 1, second]);
    engine.requireAny([both, first ^ 1, second ^ 1]);
    return both;
  }

  /** What is left is as plain as can be: an empty slot, the default, no answer. */
  #plainest(): Literal | undefined {
    const { values } = this.#search.engine.trail;
    for (const [first] of this.#search.program.program.table.values) {
      if (first !== undefined && values[first] === open) return first;
    }
    return undefined;
  }
}

function answersOf(catalog: Catalog, marks: readonly number[]): Character["facts"] {
  return Object.fromEntries(
    catalog.compiled.given.flatMap(({ condition, mark }) =>
      condition.kind === "fact" && marks.includes(mark) ? [[condition.id, condition.value] as const] : [],
    ),
  );
}
