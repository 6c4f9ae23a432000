import type { Catalog, Character } from "zealous-mantle";
import type { Part } from "zealous-mantle/types";

type Term = readonly [weight: number, variable: number];

/** Weighted variables, by number, of which the sum keeps within a bound. */
export interface Row {
  readonly terms: readonly Term[];
  readonly atMost: number;
}

/** A repair as linear rows over yes-or-no variables: what general solvers take. */
export interface LinearModel {
  readonly variables: number;
  readonly rows: readonly Row[];
  /** What is minimized: `fixed` and the sum of the costs. */
  readonly costs: readonly Term[];
  readonly fixed: number;
}

/** The fewest changes of a loadout, as a linear model; of catalogs in which nothing multiplies a stat, without sets. */
export function linearModel(catalog: Catalog, character: Character): LinearModel {
  return new LinearMaker(catalog, character).make();
}

/** A part in a slot, or the default that comes by itself. */
interface Wearing {
  readonly variable: number;
  readonly slot: number;
  readonly part: Part;
  readonly isChosen: boolean;
}

/** A variable, its negation, or what is known. */
type Literal = { readonly variable: number; readonly holds: boolean } | boolean;

type Condition = Catalog["compiled"]["rules"][number]["when"];

class LinearMaker {
  readonly #catalog: Catalog;
  readonly #character: Character;
  readonly #rows: Row[] = [];
  readonly #worn: Wearing[] = [];
  readonly #marks = new Map<number, Literal>();
  #variables = 0;

  constructor(catalog: Catalog, character: Character) {
    this.#catalog = catalog;
    this.#character = character;
  }

  make(): LinearModel {
    const { slots, compiled } = this.#catalog;
    const costs: Term[] = [];
    let fixed = 0;
    for (const slot of slots.values()) {
      const chosen = this.#character.loadout[slot.id];
      const initial = slot.required ? slot.default : undefined;
      for (const part of slot.parts) {
        if (part.id === initial || (part.fits !== undefined && !part.fits.has(this.#character.body))) continue;
        const variable = this.#wear(slot.number, part, true);
        if (chosen === undefined) costs.push([1, variable]);
        else if (part.id === chosen) {
          costs.push([-1, variable]);
          fixed += 1;
        }
      }
      // What is chosen and cannot be worn has to change in any case.
      if (
        chosen !== undefined &&
        chosen !== initial &&
        !this.#worn.some((worn) => worn.slot === slot.number && worn.part.id === chosen)
      )
        fixed += 1;
      const known = initial === undefined ? undefined : this.#catalog.parts.get(initial);
      if (known !== undefined) this.#wear(slot.number, known, false);
    }
    for (const slot of slots.values()) this.#place(slot.number, slot.required);
    for (const slot of slots.values()) this.#need(slot.number);
    for (const rule of compiled.rules) this.#rule(rule);
    return { variables: this.#variables, rows: this.#rows, costs, fixed };
  }

  #add(): number {
    this.#variables += 1;
    return this.#variables - 1;
  }

  #wear(slot: number, part: Part, isChosen: boolean): number {
    const variable = this.#add();
    this.#worn.push({ variable, slot, part, isChosen });
    return variable;
  }

  /** A slot is taken once, and a required one not left empty; its default is there where no choice takes it. */
  #place(slot: number, required: boolean): void {
    const takes = ({ slot: own, part }: Wearing) => own === slot || part.compiled.covers.includes(slot);
    const takers = this.#worn.filter(takes);
    this.#atMost(sum(takers), 1);
    if (required) this.#atMost(sum(takers, -1), -1);
    const issued = this.#worn.find((worn) => worn.slot === slot && !worn.isChosen);
    if (issued === undefined) return;
    const choices = takers.filter(({ isChosen }) => isChosen);
    this.#atMost([...sum([issued], -1), ...sum(choices, -1)], -1);
    this.#atMost([...sum([issued]), ...sum(choices)], 1);
  }

  #atMost(terms: readonly Term[], atMost: number): void {
    if (terms.length > 0 || atMost < 0) this.#rows.push({ terms, atMost });
  }

  /** What is worn in a slot is there only where the others give what it requires; at most one part is in it. */
  #need(slot: number): void {
    const own = this.#worn.filter((worn) => worn.slot === slot);
    for (const stat of new Set(own.flatMap(({ part }) => part.compiled.requires.map((need) => need.stat)))) {
      const others = this.#given(stat, slot);
      const lowest = others.reduce((least, [weight]) => least + Math.min(0, weight), this.#base(stat));
      const missing = own.flatMap(({ variable, part }): readonly Term[] => {
        const bounds = part.compiled.requires
          .filter((need) => need.stat === stat)
          .map(({ atLeast }) => atLeast - lowest);
        const most = Math.max(0, ...bounds);
        return most > 0 ? [[most, variable]] : [];
      });
      if (missing.length > 0) this.#atMost([...missing, ...negated(others)], this.#base(stat) - lowest);
    }
  }

  #base(stat: number): number {
    const id = this.#catalog.compiled.stats[stat]?.id ?? "";
    return this.#catalog.bodies.get(this.#character.body)?.stats[id] ?? 0;
  }

  #given(stat: number, without = -1): readonly Term[] {
    return this.#worn.flatMap(({ variable, slot, part }): readonly Term[] => {
      const add = part.compiled.gives.find((gift) => gift.stat === stat)?.add ?? 0;
      return add === 0 || slot === without ? [] : [[add, variable]];
    });
  }

  #rule(rule: Catalog["compiled"]["rules"][number]): void {
    switch (rule.kind) {
      case "exclusive": {
        const bySlot = rule.marks.map((mark) => bySlotOf(this.#holders(mark)));
        for (const [at, one] of bySlot.entries())
          for (const other of bySlot.slice(at + 1))
            for (const [slot, here] of one)
              for (const [place, there] of other) if (slot !== place) this.#atMost([...sum(here), ...sum(there)], 1);
        return;
      }
      case "implied":
        this.#clause([negation(this.#literal(rule.when)), this.#literal(rule.needs)]);
        return;
      case "counted": {
        const holders = rule.marks.flatMap((mark) => this.#holders(mark));
        if (rule.atMost !== undefined) this.#atMost(sum(holders), Number(rule.atMost));
        if (rule.atLeast !== undefined) this.#atMost(sum(holders, -1), -Number(rule.atLeast));
        return;
      }
      case "bounded": {
        const side = (bound: number | { readonly stat: number }) =>
          typeof bound === "number"
            ? { base: bound, terms: [] }
            : { base: this.#base(bound.stat), terms: this.#given(bound.stat) };
        const own = { base: this.#base(rule.stat), terms: this.#given(rule.stat) };
        const most = rule.atMost === undefined ? undefined : side(rule.atMost);
        const least = rule.atLeast === undefined ? undefined : side(rule.atLeast);
        if (most) this.#atMost([...own.terms, ...negated(most.terms)], most.base - own.base);
        if (least) this.#atMost([...least.terms, ...negated(own.terms)], own.base - least.base);
        return;
      }
      case "giving":
        return;
    }
  }

  #holders(mark: number): readonly Wearing[] {
    const { slotMarks } = this.#catalog.compiled;
    return this.#worn.filter(({ slot, part }) => slotMarks[slot] === mark || part.compiled.marks.includes(mark));
  }

  #literal(condition: Condition): Literal {
    switch (condition.kind) {
      case "mark":
        return this.#mark(condition.mark);
      case "any":
        return this.#any(condition.of.map((each) => this.#literal(each)));
      case "all":
        return negation(this.#any(condition.of.map((each) => negation(this.#literal(each)))));
      case "not":
        return negation(condition.of.map((each) => this.#literal(each))[0] ?? false);
    }
  }

  #mark(mark: number): Literal {
    const known = this.#marks.get(mark);
    if (known !== undefined) return known;
    const given = this.#catalog.compiled.given.find((each) => each.mark === mark)?.condition;
    const { body, facts } = this.#character;
    const literal =
      given === undefined
        ? this.#any(this.#holders(mark).map(({ variable }) => ({ variable, holds: true })))
        : given.kind === "body"
          ? given.id === body
          : given.kind === "fact" && facts[given.id] === given.value;
    this.#marks.set(mark, literal);
    return literal;
  }

  #any(literals: readonly Literal[]): Literal {
    if (literals.includes(true)) return true;
    const open = literals.filter((literal) => literal !== false);
    const [only, ...others] = open;
    if (only === undefined) return false;
    if (others.length === 0) return only;
    const literal = { variable: this.#add(), holds: true };
    this.#clause([negation(literal), ...open]);
    for (const each of open) this.#clause([literal, negation(each)]);
    return literal;
  }

  /** One of some literals holds. */
  #clause(literals: readonly Literal[]): void {
    if (literals.includes(true)) return;
    const open = literals.flatMap((literal) => (typeof literal === "boolean" ? [] : [literal]));
    const terms = open.map(({ variable, holds }): Term => [holds ? -1 : 1, variable]);
    this.#atMost(terms, open.filter(({ holds }) => !holds).length - 1);
  }
}

function bySlotOf(worn: readonly Wearing[]): ReadonlyMap<number, readonly Wearing[]> {
  const found = new Map<number, Wearing[]>();
  for (const each of worn) {
    const known = found.get(each.slot);
    if (known === undefined) found.set(each.slot, [each]);
    else known.push(each);
  }
  return found;
}

function sum(worn: readonly Wearing[], weight = 1): readonly Term[] {
  return worn.map(({ variable }) => [weight, variable]);
}

function negated(terms: readonly Term[]): readonly Term[] {
  return terms.map(([weight, variable]) => [-weight, variable]);
}

function negation(literal: Literal): Literal {
  return typeof literal === "boolean" ? !literal : { ...literal, holds: !literal.holds };
}
