import type { Threshold } from "../../catalog/model/catalog.ts";
import type { Constraint, Origin } from "./constraints.ts";
import type { Domains } from "./domains.ts";
import type { Holders, Model } from "./model.ts";

/** A variable has the value 1 while so many marks are there, and 0 otherwise. */
export function reachedBy(origin: Origin, model: Model, { marks, atLeast }: Threshold, variable: number): Constraint {
  const holders = marks.map((mark) => model.holders[mark] ?? []);
  return {
    origin,
    variables: [...new Set([variable, ...variablesOf(holders)])],
    propagate(domains) {
      const { certain, open } = countIn(holders, domains);
      if (certain >= atLeast) domains.dropValue(variable, 0);
      else if (certain + open.length < atLeast) domains.dropValue(variable, 1);
      else if (!domains.has(variable, 0)) force(open, atLeast - certain, domains);
      else if (!domains.has(variable, 1) && certain === atLeast - 1) for (const each of open) forbid(each, domains);
    },
    isSettled(domains) {
      const { certain, open } = countIn(holders, domains);
      const isReached = certain >= atLeast;
      return (
        domains.isFixed(variable) &&
        (isReached ? domains.has(variable, 1) : domains.has(variable, 0) && certain + open.length < atLeast)
      );
    },
  };
}

/** So many marks are there. */
export function reached(origin: Origin, model: Model, { marks, atLeast }: Threshold): Constraint {
  const holders = marks.map((mark) => model.holders[mark] ?? []);
  return {
    origin,
    variables: variablesOf(holders),
    propagate(domains) {
      const { certain, open } = countIn(holders, domains);
      force(open, atLeast - certain, domains);
    },
    isSettled: (domains) => countIn(holders, domains).certain >= atLeast,
  };
}

function variablesOf(holders: readonly Holders[]): readonly number[] {
  return [...new Set(holders.flat().map(({ variable }) => variable))];
}

/** How many marks are there whatever becomes of the variables, and who can have those that may be. */
function countIn(holders: readonly Holders[], domains: Domains) {
  let certain = 0;
  const open: Holders[] = [];
  for (const having of holders) {
    const able = having.filter(({ variable, mask }) => domains.meets(variable, mask));
    if (able.some(({ variable, mask }) => domains.isWithin(variable, mask))) certain += 1;
    else if (able.length > 0) open.push(able);
  }
  return { certain, open };
}

/** Of some open marks, so many must be there. */
function force(open: readonly Holders[], count: number, domains: Domains): void {
  if (open.length < count) domains.failed = true;
  if (open.length !== count) return;
  for (const [only, ...others] of open) {
    if (only !== undefined && others.length === 0) domains.keep(only.variable, only.mask);
  }
}

/** An open mark must not be there. */
function forbid(able: Holders, domains: Domains): void {
  for (const { variable, mask } of able) domains.drop(variable, mask);
}
