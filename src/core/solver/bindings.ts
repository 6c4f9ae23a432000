import type { Exclusion } from "./search/exclusions.ts";
import { type Product, rangeOf, type Side } from "./search/products.ts";
import type { Program } from "./search/program.ts";
import type { Sum } from "./search/sums.ts";
import { fails, holds, type Literal, type Trail } from "./search/trail.ts";

/** Something that choices have to do with one another. */
export interface Binding {
  readonly choices: readonly number[];
  /** Whether it holds whatever becomes of what is open. */
  isSettled(trail: Trail): boolean;
  /** What matters of the choices that are decided. */
  rest(trail: Trail): string;
}

/** All that binds the choices of a program. */
export function bindingsOf(program: Program): readonly Binding[] {
  const { requirements, exclusions, sources, products, inexact, choicesOf, table } = program;
  const isCertain = certainty(program);
  const choices = (literals: readonly Literal[]) => [
    ...new Set(literals.flatMap((literal) => [...(choicesOf[literal >> 1] ?? [])])),
  ];
  return [
    ...requirements.map((clause) => clauseBinding(clause, choices(clause), isCertain, program)),
    ...exclusions.all.map((exclusion) => exclusionBinding(exclusion)),
    ...sources.map((sum) =>
      sumBinding(sum, choices(sum.columns.flatMap(({ literals }) => literals)), isCertain, program),
    ),
    ...products.map((product) => productBinding(product, choices(literalsOf(product)))),
    ...inexact.map((concerned) =>
      inexactBinding(
        concerned,
        concerned.flatMap((choice) => table.values[choice] ?? []),
      ),
    ),
  ];
}

type IsCertain = (literal: Literal, trail: Trail) => boolean;

/** Whether a literal holds by what is left of the choices: one that must hold may yet wait for a choice to make it so. */
function certainty({ anyOf }: Program): IsCertain {
  const isCertain: IsCertain = (literal, trail) => {
    if (trail.values[literal] !== holds) return false;
    const any = anyOf.get(literal >> 1);
    if (any === undefined) return true;
    if ((literal & 1) === 0) return any.some((each) => isCertain(each, trail));
    return any.every((each) => isCertain(each ^ 1, trail));
  };
  return isCertain;
}

function clauseBinding(
  clause: readonly Literal[],
  choices: readonly number[],
  isCertain: IsCertain,
  { anyOf }: Program,
): Binding {
  const concerned = [...clause];
  for (const literal of concerned) concerned.push(...(anyOf.get(literal >> 1) ?? []));
  return {
    choices,
    isSettled: (trail) => clause.some((literal) => isCertain(literal, trail)),
    // What must hold by now is not the same as what still may.
    rest: ({ values }) => concerned.map((literal) => values[literal]).join(""),
  };
}

function exclusionBinding({ holders }: Exclusion): Binding {
  return {
    choices: [...new Set(holders.flat().map(({ choice }) => choice))],
    isSettled({ values }) {
      const possible = holders.map((having) => having.filter(({ literal }) => values[literal] !== fails));
      return possible.every((ones, mark) =>
        possible.every(
          (others, other) =>
            other === mark || ones.every(({ choice }) => others.every((each) => each.choice === choice)),
        ),
      );
    },
    rest: () => "",
  };
}

function sumBinding(
  { columns, bound }: Sum,
  choices: readonly number[],
  isCertain: IsCertain,
  { anyOf }: Program,
): Binding {
  const waiting = columns.flatMap(({ literals }) => literals.filter((literal) => anyOf.has(literal >> 1)));
  const scale = columns.reduce((all, { weights }) => all + Math.abs(weights.at(-1) ?? 0), 1 + Math.abs(bound));
  return {
    choices,
    isSettled(trail) {
      let most = 0;
      for (const { literals, weights } of columns) {
        let at = weights.length - 1;
        while (at > 0 && isCertain((literals[at] ?? 0) ^ 1, trail)) at -= 1;
        most += weights[at] ?? 0;
      }
      return most <= bound - 1e-9 * scale || (most <= bound && Number.isInteger(most) && Number.isInteger(bound));
    },
    rest(trail) {
      let sum = 0;
      for (const { literals, weights } of columns) {
        const known = literals.findIndex((literal) => isCertain(literal, trail));
        if (known >= 0) sum += weights[known] ?? 0;
      }
      return `${sum} ${waiting.map((literal) => trail.values[literal]).join("")}`;
    },
  };
}

function productBinding(product: Product, choices: readonly number[]): Binding {
  const literals = literalsOf(product);
  return {
    choices,
    isSettled(trail) {
      const of = (side: Side) => (typeof side === "number" ? { low: side, high: side } : rangeOf(side, trail));
      if (trail.values[product.guard] === fails) return true;
      return of(product.lesser).high <= of(product.greater).low - Math.abs(product.slack);
    },
    rest: ({ values }) => literals.filter((literal) => values[literal] === holds).join(" "),
  };
}

/** What is only known when all is decided, and judged. */
function inexactBinding(choices: readonly number[], literals: readonly Literal[]): Binding {
  return {
    choices,
    isSettled: () => false,
    rest: ({ values }) => literals.filter((literal) => values[literal] === holds).join(" "),
  };
}

function literalsOf({ lesser, greater, guard }: Product): readonly Literal[] {
  const of = (side: Side) => (typeof side === "number" ? [] : side.givers.flatMap(({ literals }) => literals));
  return [guard, ...of(lesser), ...of(greater)];
}
