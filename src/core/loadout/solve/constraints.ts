import { getOrInsert } from "../../base/get-or-insert.ts";
import { marksIn } from "../../catalog/compile/compile-rules.ts";
import type { CompiledBound, CompiledCondition, CompiledRule } from "../../catalog/model/catalog.ts";
import type { Assumptions } from "./assumptions.ts";
import { forceCondition, isCertain, isPossible } from "./conditions.ts";
import type { Domains } from "./domains.ts";
import { Gap } from "./gap.ts";
import type { Holders, Model, Variable } from "./model.ts";
import { Ranges } from "./ranges.ts";
import { reachedBy } from "./threshold.ts";

/** What a constraint stands for, so that a proof can name it. */
export type Origin =
  | { readonly kind: "rule"; readonly rule: number }
  | { readonly kind: "need"; readonly slot: number; readonly value: number; readonly stat: number }
  | { readonly kind: "required"; readonly slot: number }
  /** What a rule gives; it is never waived. */
  | { readonly kind: "bonus"; readonly rule: number }
  /** Every slot is taken once; no more of a part than there are. */
  | { readonly kind: "place" }
  /** That a rule be broken. */
  | { readonly kind: "negation" };

/** Something that must hold among variables. */
export interface Constraint {
  readonly origin: Origin;
  readonly variables: readonly number[];
  /** Leaves out values that cannot be part of any answer; the domains have failed when nothing is left. */
  propagate(domains: Domains, assumptions: Assumptions): void;
  /** Whether it holds whatever becomes of the variables. */
  isSettled(domains: Domains, assumptions: Assumptions): boolean;
}

/** Everything that must hold in a model. */
export function constraintsOf(model: Model): readonly Constraint[] {
  const { rules } = model.catalog.compiled;
  const known = new Map<number, Ranges>();
  const rangesOf = (stat: number) => getOrInsert(known, stat, () => new Ranges(model, stat));
  const slots = [...model.catalog.slots.values()];
  return [
    ...slots.flatMap(({ number }) => atMostOne(model.takers[number] ?? [])),
    ...model.copies.map(({ mark, count }) => counted({ kind: "place" }, model.holders[mark] ?? [], undefined, count)),
    ...slots.filter(({ required }) => required).map(({ number }) => filled(model, number)),
    ...model.variables.flatMap((variable, number) => needsOf(variable, number, rangesOf)),
    ...rules.flatMap((rule, number) => ruleConstraint(model, rule, number, rangesOf)),
    ...model.variables.flatMap(({ set }, variable) =>
      set === undefined ? [] : reachedBy({ kind: "bonus", rule: set.rule }, model, set, variable),
    ),
  ];
}

type RangesOf = (stat: number) => Ranges;

function ruleConstraint(
  model: Model,
  rule: CompiledRule,
  number: number,
  rangesOf: RangesOf,
): Constraint | readonly [] {
  const origin = { kind: "rule", rule: number } as const;
  switch (rule.kind) {
    case "exclusive":
      return exclusive(origin, model, rule.marks);
    case "implied":
      return implied(origin, model, rule.when, rule.needs);
    case "counted":
      return counted(
        origin,
        rule.marks.flatMap((mark) => model.holders[mark] ?? []),
        plain(rule.atLeast),
        plain(rule.atMost),
      );
    case "bounded":
      return bounded(origin, model, rule.stat, rule.atLeast, rule.atMost, rangesOf);
    case "giving":
      return [];
  }
}

/** A bound of a count, which is always a number. */
export function plain(bound: CompiledBound | undefined): number | undefined {
  return typeof bound === "object" ? undefined : bound;
}

/** No slot is taken by two parts. */
function atMostOne(takers: Holders): readonly Constraint[] {
  return takers.length < 2 ? [] : [counted({ kind: "place" }, takers, undefined, 1)];
}

/** A required slot that shows neither a choice nor its default must be taken by a part of another slot. */
function filled(model: Model, slot: number): Constraint {
  const values = model.variables[slot]?.values ?? [];
  const covered = values.findIndex(({ kind }) => kind === "covered");
  const issuing = values.some(({ kind }) => kind === "issued");
  const others = ((issuing ? model.choosers : model.takers)[slot] ?? []).filter(({ variable }) => variable !== slot);
  return {
    origin: { kind: "required", slot },
    variables: [slot, ...others.map(({ variable }) => variable)],
    propagate(domains) {
      if (!domains.has(slot, covered)) return;
      const able = others.filter(({ variable, mask }) => domains.meets(variable, mask));
      if (able.length === 0) domains.dropValue(slot, covered);
      const [only] = able;
      if (able.length === 1 && only !== undefined && domains.isFixed(slot)) domains.keep(only.variable, only.mask);
    },
    isSettled: (domains) =>
      !domains.has(slot, covered) || others.some(({ variable, mask }) => domains.isWithin(variable, mask)),
  };
}

/** A part is worn only where its needs are met without it. */
function needsOf({ values }: Variable, variable: number, rangesOf: RangesOf): readonly Constraint[] {
  return values.flatMap(({ needs }, value) =>
    needs.map(({ stat, atLeast }): Constraint => {
      const ranges = rangesOf(stat);
      const others = (domains: Domains, assumptions: Assumptions) => ranges.measure(domains, assumptions, variable);
      return {
        origin: { kind: "need", slot: variable, value, stat },
        variables: [...new Set([variable, ...ranges.variables, ...ranges.alliesOf(variable)])],
        propagate(domains, assumptions) {
          if (!domains.has(variable, value)) return;
          if (others(domains, assumptions).high < atLeast - ranges.slack(assumptions))
            domains.dropValue(variable, value);
        },
        isSettled: (domains, assumptions) =>
          !domains.has(variable, value) || others(domains, assumptions).low >= atLeast + ranges.slack(assumptions),
      };
    }),
  );
}

/** No two variables may have two of these marks. */
function exclusive(origin: Origin, model: Model, marks: readonly number[]): Constraint {
  const holders = marks.map((mark) => model.holders[mark] ?? []);
  return {
    origin: origin,
    variables: variablesIn(holders.flat()),
    propagate(domains) {
      for (const [number, having] of holders.entries()) {
        for (const { variable, mask } of having) {
          if (!domains.isWithin(variable, mask)) continue;
          for (const [another, others] of holders.entries()) {
            if (another === number) continue;
            for (const other of others) if (other.variable !== variable) domains.drop(other.variable, other.mask);
          }
          if (domains.failed) return;
        }
      }
    },
    isSettled(domains) {
      const possible = holders.map((having) => having.filter(({ variable, mask }) => domains.meets(variable, mask)));
      return possible.every((ones, number) =>
        possible.every(
          (others, another) =>
            another === number || ones.every(({ variable }) => others.every((other) => other.variable === variable)),
        ),
      );
    },
  };
}

/** Where one condition holds, another must. */
function implied(origin: Origin, model: Model, when: CompiledCondition, needs: CompiledCondition): Constraint {
  const marks = [...new Set([...marksIn(when), ...marksIn(needs)])];
  return {
    origin: origin,
    variables: variablesIn(marks.flatMap((mark) => model.holders[mark] ?? [])),
    propagate(domains, assumptions) {
      if (isCertain(when, true, domains, assumptions)) forceCondition(needs, true, domains, assumptions);
      else if (isCertain(needs, false, domains, assumptions)) forceCondition(when, false, domains, assumptions);
    },
    isSettled: (domains, assumptions) =>
      !isPossible(when, true, domains, assumptions) || isCertain(needs, true, domains, assumptions),
  };
}

/** A condition comes out so. */
export function forced(origin: Origin, { holders }: Model, condition: CompiledCondition, outcome: boolean): Constraint {
  return {
    origin: origin,
    variables: variablesIn(marksIn(condition).flatMap((mark) => holders[mark] ?? [])),
    propagate: (domains, assumptions) => forceCondition(condition, outcome, domains, assumptions),
    isSettled: (domains, assumptions) => isCertain(condition, outcome, domains, assumptions),
  };
}

/** So many variables are within their masks. */
export function counted(
  origin: Origin,
  holders: Holders,
  atLeast: number | undefined,
  atMost: number | undefined,
): Constraint {
  const state = (domains: Domains) => {
    let certain = 0;
    let possible = 0;
    for (const { variable, mask } of holders) {
      if (!domains.meets(variable, mask)) continue;
      possible += 1;
      if (domains.isWithin(variable, mask)) certain += 1;
    }
    return { certain, possible };
  };
  return {
    origin: origin,
    variables: variablesIn(holders),
    propagate(domains) {
      const { certain, possible } = state(domains);
      if ((atMost !== undefined && certain > atMost) || (atLeast !== undefined && possible < atLeast)) {
        domains.failed = true;
        return;
      }
      const full = atMost !== undefined && certain === Math.floor(atMost) && possible > certain;
      const scarce = atLeast !== undefined && possible === Math.ceil(atLeast) && possible > certain;
      if (!full && !scarce) return;
      for (const { variable, mask } of holders) {
        if (!domains.meets(variable, mask) || domains.isWithin(variable, mask)) continue;
        if (full) domains.drop(variable, mask);
        else domains.keep(variable, mask);
      }
    },
    isSettled(domains) {
      const { certain, possible } = state(domains);
      return (atMost === undefined || possible <= atMost) && (atLeast === undefined || certain >= atLeast);
    },
  };
}

/** A stat keeps within bounds, which may be another stat. */
export function bounded(
  origin: Origin,
  model: Model,
  stat: number,
  atLeast: CompiledBound | undefined,
  atMost: CompiledBound | undefined,
  rangesOf: RangesOf = (each) => new Ranges(model, each),
  bounds: "or-equal" | "strictly" = "or-equal",
): Constraint {
  const value = rangesOf(stat);
  const boundOf = (bound: CompiledBound) => (typeof bound === "number" ? bound : rangesOf(bound.stat));
  const gaps = [
    ...(atMost === undefined ? [] : [new Gap(model, { lesser: value, greater: boundOf(atMost) })]),
    ...(atLeast === undefined ? [] : [new Gap(model, { lesser: boundOf(atLeast), greater: value })]),
  ];
  const sign = bounds === "strictly" ? -1 : 1;
  return {
    origin: origin,
    variables: [...new Set(gaps.flatMap(({ variables }) => variables))],
    propagate(domains, assumptions) {
      for (const gap of gaps) gap.close(domains, assumptions, sign * gap.slack(assumptions));
    },
    isSettled: (domains, assumptions) =>
      gaps.every((gap) => gap.isClosed(domains, assumptions, gap.slack(assumptions))),
  };
}

function variablesIn(holders: Holders): readonly number[] {
  return [...new Set(holders.map(({ variable }) => variable))];
}
