import type { Budget } from "./budget.ts";
import type { Engine } from "./engine.ts";
import type { Program } from "./program.ts";
import { columnOf, type Sum } from "./sums.ts";
import { surrogateOf } from "./surrogate.ts";
import { fails, type Literal } from "./trail.ts";

/** What a search for the fewest failing literals came to. */
export interface Fewest<Answer> {
  /** The best answer that was found. */
  readonly answer: Answer | undefined;
  /** How many literals fail in it. */
  readonly size: number;
  /** In every answer, at least so many fail; more than there are when there is no answer. */
  readonly least: number;
  /** Whether it is proved that there is none better, or none at all. */
  readonly complete: boolean;
}

/** What is sought. */
export interface Aim<Answer> {
  /** Literals of which as few as can be shall fail. */
  readonly wishes: readonly Literal[];
  /** By choice, what each value costs: how many wishes fail with it. */
  readonly costs: readonly (readonly number[])[];
  /** Reads the answer that the engine has found. */
  read(): Answer;
  /** Is called when a better answer or a better bound is known. */
  report?(state: { readonly size: number | undefined; readonly least: number }): void;
}

/** Steps that the first try takes at most, and so many more for each variable; later tries take longer. */
const firstSteps = 600;
const firstStepsOfVariable = 0.1;

/**
 * Finds an answer in which the fewest of some wishes fail.
 *
 * From below, by sets of wishes that cannot all hold: each set is asked for one failure less. A. Morgado, C. Dodaro, J.
 * Marques-Silva, "Core-guided MaxSAT with soft cardinality constraints" (2014). From below as well, by all sums added up to one,
 * within which answers of one size after another are sought. From above, by answers each better than the last.
 */
export class FewestSearch<Answer> {
  readonly #engine: Engine;
  readonly #program: Program;
  readonly #aim: Aim<Answer>;
  readonly #budget: Budget;
  /** What is assumed: wishes, and that of sets of them no more fail than must. */
  readonly #assumed = new Set<Literal>();
  /** By assumption about a set, that set and how many of it may fail. */
  readonly #sets = new Map<Literal, { readonly wishes: readonly Literal[]; readonly most: number }>();
  /** In every answer, at least so many wishes fail; and how many of them sets have shown, which is counted by itself. */
  #least = 0;
  #shown = 0;
  #best: { readonly answer: Answer; readonly size: number } | undefined;
  /** By size, a literal under which answers are no larger. */
  readonly #within = new Map<number, Literal>();
  /** All sums in one, by which answers of a size are bounded. */
  #surrogate: Sum | undefined;

  constructor(engine: Engine, program: Program, aim: Aim<Answer>, budget: Budget) {
    this.#engine = engine;
    this.#program = program;
    this.#aim = aim;
    this.#budget = budget;
  }

  run(): Fewest<Answer> {
    const engine = this.#engine;
    if (!engine.settle()) return this.#none();
    for (const wish of this.#aim.wishes) {
      if (engine.trail.values[wish] === fails) this.#show();
      else {
        this.#assumed.add(wish);
        engine.prefer(wish);
      }
    }
    const first = firstSteps + firstStepsOfVariable * this.#program.variables;
    this.#rise(first);
    if (!this.#isDone()) this.#addUp();
    // Which way is short is not known beforehand, so each has its turn, and a longer one each time.
    for (let steps = first; !this.#isDone(); steps *= 2) {
      this.#climb(steps);
      if (!this.#isDone()) this.#descend(steps);
      if (!this.#isDone()) this.#rise(2 * steps);
    }
    return this.#result();
  }

  /** A literal under which only answers are found in which no more than so many wishes fail. */
  within(size: number): Literal {
    const known = this.#within.get(size);
    if (known !== undefined) return known;
    const guard = this.#engine.add();
    this.#require({ columns: this.#aim.wishes.map((wish) => columnOf([wish, wish ^ 1], [0, 1])), bound: size }, guard);
    if (this.#surrogate !== undefined) {
      const { columns, bound } = this.#surrogate;
      this.#require({ columns, bound: bound + size }, guard);
    }
    this.#within.set(size, guard);
    return guard;
  }

  #require({ columns, bound }: Sum, guard: Literal): void {
    const most = columns.reduce((all, { weights }) => all + (weights.at(-1) ?? 0), 0);
    if (most <= bound) return;
    const column = columnOf([guard ^ 1, guard], [0, most - bound]);
    this.#engine.requireSum({ columns: [...columns, column], bound: most });
  }

  #isDone(): boolean {
    return this.#isProved() || this.#budget.steps <= 0;
  }

  /** Whether nothing better can be. */
  #isProved(): boolean {
    return this.#engine.isBroken || this.#least >= (this.#best?.size ?? this.#aim.wishes.length + 1);
  }

  #none(): Fewest<Answer> {
    return { answer: undefined, size: 0, least: this.#aim.wishes.length + 1, complete: true };
  }

  #result(): Fewest<Answer> {
    const best = this.#best;
    const complete = this.#isProved();
    if (best !== undefined) return { ...best, least: complete ? best.size : this.#least, complete };
    return complete ? this.#none() : { answer: undefined, size: 0, least: this.#least, complete };
  }

  /** Searches for so many steps of the budget at most. */
  #search(assumptions: readonly Literal[], steps: number) {
    const whole = this.#budget;
    const given = Math.max(1, Math.min(steps, whole.steps));
    const part: Budget = { steps: given, isOver: whole.isOver };
    const outcome = this.#engine.search(assumptions, part);
    whole.steps -= given - part.steps;
    // Whoever ends a search for another reason than its steps ends all of it.
    if (outcome === "gave-up" && part.steps > 0) whole.steps = 0;
    return outcome;
  }

  /** Finds sets of wishes that cannot all hold, until the rest can, or so many steps are taken. */
  #rise(steps: number): void {
    const end = this.#budget.steps - steps;
    while (!this.#isDone() && this.#budget.steps > end) {
      const cutoff = this.#best === undefined ? [] : [this.within(this.#best.size - 1)];
      const outcome = this.#search([...this.#assumed, ...cutoff], this.#budget.steps - end);
      if (outcome === "gave-up") return;
      if (outcome === "found") {
        this.#prove(this.#take());
        return;
      }
      const set = this.#shortened(this.#engine.conflict, cutoff);
      // Where nothing better than the best can be, no wish is at fault.
      if (set.length === 0) this.#proveBest();
      else this.#relax(set);
    }
  }

  /** The wishes of a conflict, without those it does not need. */
  #shortened(conflict: readonly Literal[], cutoff: readonly Literal[]): readonly Literal[] {
    const wishesOf = (literals: readonly Literal[]) => literals.filter((literal) => !cutoff.includes(literal));
    let set = wishesOf(conflict);
    if (set.length > 60) return set;
    for (const literal of set) {
      if (set.length < 2 || !set.includes(literal)) continue;
      const fewer = set.filter((each) => each !== literal);
      if (this.#search([...fewer, ...cutoff], 40) === "none") set = wishesOf(this.#engine.conflict);
    }
    return set;
  }

  /** One wish of a set must fail: so one fewer is asked for. */
  #relax(set: readonly Literal[]): void {
    const engine = this.#engine;
    this.#show();
    for (const literal of set) {
      this.#assumed.delete(literal);
      const known = this.#sets.get(literal);
      if (known !== undefined) this.#allow(known.wishes, known.most + 1);
    }
    if (set.length < 2) return;
    // Of many sets far more must fail than one, which costs little to see at once.
    let most = 1;
    let assumed = this.#allow(set, most);
    while (assumed !== undefined && this.#search([assumed], 300) === "none" && !engine.isBroken) {
      this.#show();
      engine.require(assumed ^ 1);
      this.#assumed.delete(assumed);
      most += 1;
      assumed = this.#allow(set, most);
    }
  }

  /** Assumes that of some wishes no more than so many fail. */
  #allow(wishes: readonly Literal[], most: number): Literal | undefined {
    if (most >= wishes.length) return undefined;
    const literal = this.#engine.add();
    this.#require({ columns: wishes.map((wish) => columnOf([wish, wish ^ 1], [0, 1])), bound: most }, literal);
    this.#engine.prefer(literal);
    this.#sets.set(literal, { wishes, most });
    this.#assumed.add(literal);
    return literal;
  }

  /** One more wish must fail. */
  #show(): void {
    this.#shown += 1;
    this.#prove(this.#shown);
  }

  /** Every answer is at least so large. */
  #prove(least: number): void {
    if (least <= this.#least) return;
    this.#least = least;
    this.#report();
  }

  /** There is no answer better than the best. */
  #proveBest(): void {
    this.#prove(this.#best?.size ?? this.#aim.wishes.length + 1);
  }

  /** Takes the answer that was found, if it is better; its size. */
  #take(): number {
    const size = this.#aim.wishes.reduce((count, wish) => count + (this.#engine.has(wish) ? 0 : 1), 0);
    if (this.#best === undefined || size < this.#best.size) {
      this.#best = { answer: this.#aim.read(), size };
      this.#report();
    }
    return size;
  }

  #report(): void {
    this.#aim.report?.({ size: this.#best?.size, least: this.#least });
  }

  /** Looks for answers, each better than the last. */
  #descend(steps: number): void {
    const end = this.#budget.steps - steps;
    while (!this.#isDone() && this.#budget.steps > end) {
      const cutoff = this.#best === undefined ? [] : [this.within(this.#best.size - 1)];
      const outcome = this.#search(cutoff, this.#budget.steps - end);
      if (outcome === "gave-up") return;
      if (outcome === "found") this.#take();
      else this.#proveBest();
    }
  }

  /** Looks for answers of one size after another, from the least there can be. */
  #climb(steps: number): void {
    const end = this.#budget.steps - steps;
    while (!this.#isDone() && this.#budget.steps > end) {
      const size = this.#least;
      const outcome = this.#search([this.within(size)], this.#budget.steps - end);
      if (outcome === "gave-up") return;
      if (outcome === "found") this.#take();
      else if (this.#engine.conflict.length === 0) this.#proveBest();
      else this.#prove(size + 1);
    }
  }

  /** Adds all sums up to one, with which answers of a size are bounded from below. */
  #addUp(): void {
    const most = this.#best === undefined ? this.#aim.wishes.length : this.#best.size - 1;
    if (!this.#engine.settle()) return;
    const { least, sum } = surrogateOf(this.#program, this.#engine.trail, this.#aim.costs, most);
    this.#surrogate = sum;
    this.#within.clear();
    this.#prove(Math.min(most + 1, Math.ceil(least - 1e-6)));
  }
}
