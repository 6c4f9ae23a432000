import type { CompiledCondition } from "../../catalog/model/catalog.ts";
import type { Assumptions } from "./assumptions.ts";
import type { Domains } from "./domains.ts";

/** Whether a condition can come out so. */
export function isPossible(
  condition: CompiledCondition,
  outcome: boolean,
  domains: Domains,
  assumptions: Assumptions,
): boolean {
  return !isCertain(condition, !outcome, domains, assumptions);
}

/** Whether a condition comes out so whatever becomes of the variables; it may miss some that do. */
export function isCertain(
  condition: CompiledCondition,
  outcome: boolean,
  domains: Domains,
  assumptions: Assumptions,
): boolean {
  switch (condition.kind) {
    case "mark": {
      if (assumptions.marks[condition.mark] === 1) return outcome;
      const holders = assumptions.holders[condition.mark] ?? [];
      return outcome
        ? holders.some(({ variable, mask }) => domains.isWithin(variable, mask))
        : holders.every(({ variable, mask }) => !domains.meets(variable, mask));
    }
    case "any":
    case "all": {
      const each = (part: CompiledCondition) => isCertain(part, outcome, domains, assumptions);
      return (condition.kind === "any") === outcome ? condition.of.some(each) : condition.of.every(each);
    }
    case "not":
      return condition.of.every((inner) => isCertain(inner, !outcome, domains, assumptions));
  }
}

/** Leaves out values with which a condition could not come out so. */
export function forceCondition(
  condition: CompiledCondition,
  outcome: boolean,
  domains: Domains,
  assumptions: Assumptions,
): void {
  switch (condition.kind) {
    case "mark":
      forceMark(condition.mark, outcome, domains, assumptions);
      return;
    case "any":
    case "all": {
      if ((condition.kind === "any") !== outcome) {
        for (const each of condition.of) forceCondition(each, outcome, domains, assumptions);
        return;
      }
      const open = condition.of.filter((each) => isPossible(each, outcome, domains, assumptions));
      const [only] = open;
      if (only === undefined) domains.failed = true;
      else if (open.length === 1) forceCondition(only, outcome, domains, assumptions);
      return;
    }
    case "not":
      for (const inner of condition.of) forceCondition(inner, !outcome, domains, assumptions);
  }
}

function forceMark(mark: number, outcome: boolean, domains: Domains, assumptions: Assumptions): void {
  const stands = assumptions.marks[mark] === 1;
  if (stands && !outcome) domains.failed = true;
  if (stands) return;
  const able = (assumptions.holders[mark] ?? []).filter(({ variable, mask }) => domains.meets(variable, mask));
  if (!outcome) for (const { variable, mask } of able) domains.drop(variable, mask);
  else {
    const [only] = able;
    if (only === undefined) domains.failed = true;
    else if (able.length === 1) domains.keep(only.variable, only.mask);
  }
}
