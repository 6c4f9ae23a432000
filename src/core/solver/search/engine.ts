import { type Budget, stepsOfLook } from "./budget.ts";
import { Choices } from "./choices.ts";
import type { Clauses } from "./clauses.ts";
import { Conflicts } from "./conflicts.ts";
import { Exclusions } from "./exclusions.ts";
import type { NumberList } from "./number-list.ts";
import { Order } from "./order.ts";
import { Products } from "./products.ts";
import type { Program } from "./program.ts";
import type { Sum, Sums } from "./sums.ts";
import { fails, holds, type Literal, open, source, Trail } from "./trail.ts";

/** What a search came to. */
export type Outcome = "found" | "none" | "gave-up";

/** How many literals are followed up, or terms of sums looked at, in the time of a step. */
const followedInStep = 200;

/**
 * Searches for values of the variables of a program with which everything in it holds.
 *
 * What makes a try fail is learned as a short clause, and the search goes back as far as that clause tells:
 * J. P. Marques-Silva, K. A. Sakallah, "GRASP: a search algorithm for propositional satisfiability" (1999). Choices, sums and
 * products say why they drew a conclusion only when they are asked: O. Ohrimenko, P. J. Stuckey, M. Codish, "Propagation via lazy
 * clause generation" (2009). It is begun anew now and then, with what was tried last: M. Luby, A. Sinclair, D. Zuckerman, "Optimal
 * speedup of Las Vegas algorithms" (1993); K. Pipatsrisawat, A. Darwiche, "A lightweight component caching scheme" (2007).
 */
export class Engine {
  readonly trail: Trail;
  readonly choices: Choices;
  /** The assumptions that cannot hold together, after an outcome of `none`; empty when nothing can hold at all. */
  conflict: readonly Literal[] = [];
  /** Chooses what to try next, in place of the order of activity, as long as it has something. */
  decide: (() => Literal | undefined) | undefined;
  /** What is tried first of each choice: by choice, a literal of it, or -1. */
  readonly preferred: Int32Array;
  /**
   * Judges a complete answer: literals of it that cannot hold together, or nothing when it will do. They are taken for a clause of
   * their negations.
   */
  accepts: (() => readonly Literal[] | undefined) | undefined;
  readonly #values: readonly (readonly Literal[])[];
  readonly #clauses: Clauses;
  readonly #exclusions: Exclusions;
  readonly #sums: Sums;
  readonly #products: Products;
  readonly #order: Order;
  readonly #conflicts: Conflicts;
  /** By variable, what it was last. */
  #phases: Uint8Array;
  #isBroken = false;
  #followed = 0;
  /** Steps since it was asked last whether the search is to end. */
  #sinceLook = 0;
  #mostLearned = 2_000;

  constructor(program: Program) {
    const { variables, clauses, table, exclusions, sums, products, units } = program;
    this.trail = new Trail(variables);
    this.#clauses = clauses.copy();
    this.choices = new Choices(table);
    this.#values = table.values;
    this.preferred = Int32Array.from(table.values, () => -1);
    this.#exclusions = new Exclusions(exclusions);
    this.#sums = sums.copy();
    this.#products = new Products(products);
    this.#order = new Order(variables);
    this.#phases = new Uint8Array(variables + 64).fill(1);
    this.#conflicts = new Conflicts(this.trail, this.#order, this.#explain);
    for (const unit of units) this.require(unit);
  }

  /** A new variable; its literal. */
  add(): Literal {
    const variable = this.trail.add();
    this.#order.add(variable);
    if (variable >= this.#phases.length) {
      const phases = new Uint8Array(2 * variable).fill(1);
      phases.set(this.#phases);
      this.#phases = phases;
    }
    return 2 * variable;
  }

  /** Whether nothing can hold any more, whatever is assumed. */
  get isBroken(): boolean {
    return this.#isBroken;
  }

  /** Makes a literal hold for good. */
  require(literal: Literal): void {
    this.#backTo(0);
    const known = this.trail.values[literal];
    if (known === fails) this.#isBroken = true;
    else if (known === open) this.trail.assign(literal, source.decision, 0);
  }

  /** One of some literals must hold. */
  requireAny(literals: readonly Literal[]): void {
    this.#backTo(0);
    const { values } = this.trail;
    if (literals.some((literal) => values[literal] === holds)) return;
    const left = [...new Set(literals)].filter((literal) => values[literal] === open);
    if (left.length === 0) this.#isBroken = true;
    else if (left.length === 1) this.require(left[0] as number);
    else this.#clauses.add(left);
  }

  requireSum(sum: Sum): number {
    this.#backTo(0);
    return this.#sums.add(sum, this.trail);
  }

  /** How many values a choice has left. */
  left(choice: number): number {
    const values = this.#values[choice] ?? [];
    if (values.length > 2) return this.choices.left(choice);
    return values.reduce((count, literal) => count + (this.trail.values[literal] === fails ? 0 : 1), 0);
  }

  /** What is tried first of a variable. */
  prefer(literal: Literal): void {
    this.#phases[literal >> 1] = literal & 1;
  }

  /** Propagates at level 0. Returns whether anything can hold. */
  settle(): boolean {
    this.#backTo(0);
    if (!this.#isBroken && !this.#propagate()) this.#isBroken = true;
    return !this.#isBroken;
  }

  /** Whether a literal holds now: after an outcome of `found`, in the answer. */
  has(literal: Literal): boolean {
    return this.trail.values[literal] === holds;
  }

  /** Tries a literal on a level of its own; whether nothing fails. */
  push(literal: Literal): boolean {
    this.#newLevel();
    const known = this.trail.values[literal];
    if (known === open) this.trail.assign(literal, source.decision, 0);
    return known !== fails && this.#propagate();
  }

  /** Takes back the last level that was tried. */
  pop(): void {
    this.#backTo(this.trail.level - 1);
  }

  /** How many literals hold under some assumptions, without any search; all there are where they contradict one another. */
  reach(assumptions: readonly Literal[]): number {
    this.#backTo(0);
    const holds = assumptions.every((literal) => this.push(literal)) ? this.trail.size : this.trail.variables;
    this.#backTo(0);
    return holds;
  }

  /** Looks for an answer under some assumptions. After `found`, the answer stands until the next call. */
  search(assumptions: readonly Literal[], budget: Budget): Outcome {
    this.conflict = [];
    if (!this.settle()) return "none";
    for (let restart = 1; ; restart += 1) {
      const outcome = this.#run(assumptions, budget, 64 * luby(restart));
      if (outcome !== undefined) return outcome;
      if (this.#clauses.learned <= this.#mostLearned) continue;
      this.#backTo(0);
      if (!this.settle()) return "none";
      this.#clauses.reduce(this.trail);
      this.#mostLearned *= 1.1;
    }
  }

  /** Searches until so many conflicts. */
  #run(assumptions: readonly Literal[], budget: Budget, most: number): Outcome | undefined {
    const { trail } = this;
    for (let conflicts = 0; ; ) {
      if (!this.#propagate() || !this.#complete()) {
        conflicts += 1;
        if (!this.#learn()) return "none";
        if (this.#spend(budget)) return "gave-up";
        continue;
      }
      if (conflicts >= most) {
        this.#backTo(Math.min(1, trail.level));
        return undefined;
      }
      if (trail.level === 0) {
        if (!this.#assume(assumptions)) return "none";
        continue;
      }
      if (trail.size === trail.variables) return "found";
      if (this.#spend(budget)) return "gave-up";
      const next = this.#next();
      if (next === undefined) return "found";
      this.#newLevel();
      trail.assign(next, source.decision, 0);
    }
  }

  #spend(budget: Budget): boolean {
    this.#followed += this.#sums.looks;
    this.#sums.looks = 0;
    const followed = Math.floor(this.#followed / followedInStep);
    this.#followed -= followed * followedInStep;
    budget.steps -= 1 + followed;
    if (budget.steps <= 0) return true;
    this.#sinceLook += 1 + followed;
    if (this.#sinceLook < stepsOfLook) return false;
    this.#sinceLook = 0;
    return budget.isOver?.() === true;
  }

  /** Puts all assumptions on a level of their own; whether they can hold together as far as is known. */
  #assume(assumptions: readonly Literal[]): boolean {
    const { trail } = this;
    this.#newLevel();
    for (const literal of assumptions) {
      const known = trail.values[literal];
      if (known === open) trail.assign(literal, source.decision, 0);
      else if (known === fails) {
        const isOther = trail.levels[literal >> 1] !== 0;
        this.conflict = isOther ? [literal, literal ^ 1] : [literal];
        return false;
      }
    }
    return true;
  }

  #newLevel(): void {
    this.trail.starts.push(this.trail.size);
    this.#sums.mark();
  }

  #backTo(level: number): void {
    const { trail } = this;
    if (trail.level <= level) return;
    const start = trail.starts[level] ?? 0;
    for (let at = trail.size - 1; at >= start; at -= 1) {
      const literal = trail.literals[at] as number;
      const variable = literal >> 1;
      trail.values[literal] = open;
      trail.values[literal ^ 1] = open;
      this.#phases[variable] = literal & 1;
      this.#order.push(variable);
      this.choices.undo(literal, at < trail.followed);
    }
    trail.size = start;
    trail.followed = Math.min(trail.followed, start);
    trail.starts.length = level;
    this.#sums.undo(level);
    this.#products.undo();
  }

  #propagate(): boolean {
    const { trail } = this;
    for (;;) {
      while (trail.followed < trail.size) {
        const literal = trail.literals[trail.followed] as number;
        trail.followed += 1;
        this.#followed += 1;
        this.#sums.follow(literal ^ 1, trail);
        this.#products.follow(literal ^ 1);
        if (!this.choices.follow(literal, trail)) return false;
        if (!this.#clauses.follow(literal ^ 1, trail)) return false;
        if (!this.#exclusions.follow(literal, trail)) return false;
      }
      const summed = this.#sums.propagate(trail);
      if (summed === undefined) return false;
      if (summed) continue;
      const multiplied = this.#products.propagate(trail);
      if (multiplied === undefined) return false;
      if (!multiplied) return true;
    }
  }

  /** Judges a complete answer; where it will not do, that is a conflict. */
  #complete(): boolean {
    const { trail } = this;
    if (trail.size < trail.variables || this.accepts === undefined) return true;
    const wrong = this.accepts();
    if (wrong === undefined) return true;
    trail.conflict.set(wrong.map((literal) => literal ^ 1));
    return false;
  }

  #next(): Literal | undefined {
    const { trail } = this;
    const chosen = this.decide?.();
    if (chosen !== undefined) return chosen;
    for (let variable = this.#order.pop(); variable !== undefined; variable = this.#order.pop()) {
      if (trail.values[2 * variable] !== open) continue;
      const choice = this.choices.choiceOf(variable);
      if (choice < 0) return 2 * variable + (this.#phases[variable] as number);
      // Of a choice, a value is tried rather than one left out: the one that it had, or was to have.
      const preferred = this.preferred[choice] as number;
      if (preferred < 0 || trail.values[preferred] !== open || this.#phases[variable] === 0) return 2 * variable;
      // The variable is not decided by that for sure.
      this.#order.push(variable);
      return preferred;
    }
    return undefined;
  }

  /** Learns a clause from a conflict and goes back; whether anything can still hold under the assumptions. */
  #learn(): boolean {
    const { trail } = this;
    const { items, size } = trail.conflict;
    let level = 0;
    for (let at = 0; at < size; at += 1) level = Math.max(level, trail.levels[(items[at] as number) >> 1] as number);
    if (level === 0) {
      this.#isBroken = true;
      return false;
    }
    if (level === 1) {
      this.conflict = this.#conflicts.assumptionsBehind();
      this.#backTo(0);
      this.#isBroken = this.conflict.length === 0;
      return false;
    }
    this.#backTo(level);
    const learned = this.#conflicts.firstPoint(level);
    this.#order.decay();
    let back = 0;
    let second = 1;
    for (let at = 1; at < learned.length; at += 1) {
      const above = trail.levels[(learned[at] as number) >> 1] as number;
      if (above <= back) continue;
      back = above;
      second = at;
    }
    const levels = new Set(learned.map((literal) => trail.levels[literal >> 1]));
    this.#backTo(back);
    const [first = 0] = learned;
    if (learned.length === 1) {
      trail.assign(first, source.decision, 0);
      return true;
    }
    [learned[1], learned[second]] = [learned[second] as number, learned[1] as number];
    const place = this.#clauses.add(learned, levels.size);
    trail.assign(first, source.clause, place);
    return true;
  }

  /** The failing literals that made a literal hold, added to some. */
  readonly #explain = (literal: Literal, into: NumberList): void => {
    const { trail } = this;
    const variable = literal >> 1;
    const reason = trail.reasons[variable] as number;
    switch (trail.sources[variable]) {
      case source.clause:
        this.#clauses.explain(literal, reason, into);
        break;
      case source.choice:
        this.choices.explain(literal, reason, into);
        break;
      case source.exclusion:
        this.#exclusions.explain(literal, reason, into);
        break;
      case source.sum:
        this.#sums.explain(literal, reason, trail, into);
        break;
      case source.product:
        this.#products.explain(literal, reason, trail, into);
        break;
    }
  };
}

/** How much longer each try is than the shortest: 1, 1, 2, 1, 1, 2, 4, … */
function luby(turn: number): number {
  let size = 1;
  while (2 * size - 1 < turn) size *= 2;
  return 2 * size - 1 === turn ? size : luby(turn - size + 1);
}
