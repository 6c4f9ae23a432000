import { type ChoiceTable, choiceTable, type Mask } from "./choices.ts";
import { Clauses } from "./clauses.ts";
import { type Exclusion, type ExclusionTable, exclusionTable } from "./exclusions.ts";
import { haveNoParity } from "./parities.ts";
import type { Product } from "./products.ts";
import { type Sum, Sums } from "./sums.ts";
import { always, type Literal, never } from "./trail.ts";

/** What an engine searches: choices and other yes-or-no variables, and what must hold among them. It never changes. */
export interface Program {
  readonly variables: number;
  readonly table: ChoiceTable;
  readonly clauses: Clauses;
  readonly exclusions: ExclusionTable;
  readonly sums: Sums;
  /** The sums as they were given. */
  readonly sources: readonly Sum[];
  readonly products: readonly Product[];
  /** The clauses that were asked for, without those that only say what a literal stands for. */
  readonly requirements: readonly (readonly Literal[])[];
  /** By variable that stands for any of some literals, those. */
  readonly anyOf: ReadonlyMap<number, readonly Literal[]>;
  /** Choices about which sums and products say less than there is to say. */
  readonly inexact: readonly (readonly number[])[];
  /** By variable, the choices that it hangs on. */
  readonly choicesOf: readonly (ReadonlySet<number> | undefined)[];
  /** What holds for good. */
  readonly units: readonly Literal[];
}

/** Puts a program together. */
export class ProgramBuilder {
  variables = 1;
  /** By choice, the literal of each value. */
  readonly values: Literal[][] = [];
  readonly #masks: Mask[] = [];
  readonly #known = new Map<string, Literal>();
  readonly #requirements: (readonly Literal[])[] = [];
  readonly #anyOf = new Map<number, readonly Literal[]>();
  readonly #choicesOf: (ReadonlySet<number> | undefined)[] = [];
  readonly exclusions: Exclusion[] = [];
  readonly sums: Sum[] = [];
  readonly products: Product[] = [];
  readonly inexact: (readonly number[])[] = [];
  readonly units: Literal[] = [];

  /** A new yes-or-no variable; its literal. */
  add(): Literal {
    this.variables += 1;
    return 2 * (this.variables - 1);
  }

  /** A choice of so many values; of two, one is the negation of the other. */
  addChoice(size: number): number {
    if (size === 1) this.values.push([always]);
    else if (size === 2) {
      const first = this.add();
      this.values.push([first, first ^ 1]);
    } else this.values.push(Array.from({ length: size }, () => this.add()));
    const choice = this.values.length - 1;
    for (const literal of this.values[choice] ?? [])
      if (literal > never) this.#choicesOf[literal >> 1] = new Set([choice]);
    return choice;
  }

  /** A literal that holds where a choice is one of some values. */
  within(choice: number, chosen: readonly number[]): Literal {
    const values = this.values[choice] ?? [];
    if (chosen.length === 0) return never;
    if (chosen.length === values.length) return always;
    const [first = 0] = chosen;
    if (chosen.length === 1) return values[first] ?? never;
    if (chosen.length === values.length - 1) {
      const missing = [...values.keys()].find((value) => !chosen.includes(value)) ?? 0;
      return (values[missing] ?? never) ^ 1;
    }
    const key = `${choice}:${chosen.join(" ")}`;
    const known = this.#known.get(key);
    if (known !== undefined) return known;
    const literal = this.add();
    this.#masks.push({ literal, choice, values: chosen.map((value) => values[value] ?? never) });
    this.#known.set(key, literal);
    this.#choicesOf[literal >> 1] = new Set([choice]);
    return literal;
  }

  /** A literal that holds where any of some do. */
  any(literals: readonly Literal[]): Literal {
    const left = [...new Set(literals)].filter((literal) => literal !== never).sort((one, other) => one - other);
    const [first = never] = left;
    if (left.includes(always)) return always;
    if (left.length < 2) return first;
    const key = left.join(" ");
    const known = this.#known.get(key);
    if (known !== undefined) return known;
    const literal = this.add();
    this.#known.set(key, literal);
    this.#choicesOf[literal >> 1] = new Set(left.flatMap((each) => [...(this.#choicesOf[each >> 1] ?? [])]));
    this.#anyOf.set(literal >> 1, left);
    return literal;
  }

  all(literals: readonly Literal[]): Literal {
    return this.any(literals.map((literal) => literal ^ 1)) ^ 1;
  }

  /** One of some literals must hold. */
  require(literals: readonly Literal[]): void {
    const left = [...new Set(literals)].filter((literal) => literal !== never);
    if (left.some((literal) => literal === always || left.includes(literal ^ 1))) return;
    this.#requirements.push(left);
  }

  build(): Program {
    if (haveNoParity(this.#requirements)) this.units.push(never);
    const clauses = new Clauses(this.variables);
    for (const [variable, literals] of this.#anyOf) {
      clauses.add([2 * variable + 1, ...literals]);
      for (const literal of literals) clauses.add([2 * variable, literal ^ 1]);
    }
    for (const clause of this.#requirements) {
      if (clause.length > 1) clauses.add(clause);
      else this.units.push(clause[0] ?? never);
    }
    const sums = new Sums();
    for (const sum of this.sums) sums.add(sum);
    return {
      variables: this.variables,
      table: choiceTable(this.variables, this.values, this.#masks),
      clauses,
      exclusions: exclusionTable(this.variables, this.exclusions),
      sums,
      sources: this.sums,
      products: this.products,
      inexact: this.inexact,
      requirements: this.#requirements,
      anyOf: this.#anyOf,
      choicesOf: this.#choicesOf,
      units: this.units,
    };
  }
}
