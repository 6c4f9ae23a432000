import { recall } from "../../base/recall.ts";
import { marksIn } from "../../catalog/compile/compile-rules.ts";
import type { CompiledBound, CompiledCondition, CompiledRule } from "../../catalog/model/catalog.ts";
import { forceCondition, isCertain, isPossible } from "./conditions.ts";
import type { Domains } from "./domains.ts";
import { Gap } from "./gap.ts";
import type { Ground } from "./ground.ts";
import type { Holders, Model, Variable } from "./model.ts";
import { Ranges } from "./ranges.ts";

/** What a constraint stands for, so that a proof can name it. */
export type Standing =
  | { readonly kind: "rule"; readonly rule: number }
  | { readonly kind: "need"; readonly slot: number; readonly value: number; readonly stat: number }
  | { readonly kind: "required"; readonly slot: number }
  /** Every slot is taken once; no more of a part than there are. */
  | { readonly kind: "place" }
  /** That a rule be broken. */
  | { readonly kind: "denial" };

/** Something that must hold among variables. */
export interface Constraint {
  readonly standing: Standing;
  readonly variables: readonly number[];
  /** Leaves out values that cannot be part of any answer; the domains say when nothing is left. */
  propagate(domains: Domains, ground: Ground): void;
  /** Whether it holds whatever becomes of the variables. */
  isSettled(domains: Domains, ground: Ground): boolean;
}

/** Everything that must hold in a model. */
export function constraintsOf(model: Model): readonly Constraint[] {
  const { rules } = model.catalog.compiled;
  const known = new Map<number, Ranges>();
  const rangesOf = (stat: number) => recall(known, stat, () => new Ranges(model, stat));
  const slots = [...model.catalog.slots.values()];
  return [
    ...slots.flatMap(({ number }) => atMostOne(model.takers[number] ?? [])),
    ...model.copies.map(({ mark, count }) => counted({ kind: "place" }, model.holders[mark] ?? [], undefined, count)),
    ...slots.filter(({ required }) => required).map(({ number }) => filled(model, number)),
    ...model.variables.flatMap((variable, number) => needsOf(variable, number, rangesOf)),
    ...rules.map((rule, number) => ruleConstraint(model, rule, number, rangesOf)),
  ];
}

type RangesOf = (stat: number) => Ranges;

function ruleConstraint(model: Model, rule: CompiledRule, number: number, rangesOf: RangesOf): Constraint {
  const standing = { kind: "rule", rule: number } as const;
  switch (rule.kind) {
    case "never":
      return apart(standing, model, rule.marks);
    case "needs":
      return implied(standing, model, rule.when, rule.needs);
    case "count":
      return counted(
        standing,
        rule.marks.flatMap((mark) => model.holders[mark] ?? []),
        plain(rule.atLeast),
        plain(rule.atMost),
      );
    case "total":
      return bounded(standing, model, rule.stat, rule.atLeast, rule.atMost, rangesOf);
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
    standing: { kind: "required", slot },
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
      const others = (domains: Domains, ground: Ground) => ranges.measure(domains, ground, variable);
      return {
        standing: { kind: "need", slot: variable, value, stat },
        variables: [...new Set([variable, ...ranges.variables])],
        propagate(domains, ground) {
          if (!domains.has(variable, value)) return;
          if (others(domains, ground).high < atLeast - ranges.slack(ground)) domains.dropValue(variable, value);
        },
        isSettled: (domains, ground) =>
          !domains.has(variable, value) || others(domains, ground).low >= atLeast + ranges.slack(ground),
      };
    }),
  );
}

/** No two variables may have two of these marks. */
function apart(standing: Standing, model: Model, marks: readonly number[]): Constraint {
  const holders = marks.map((mark) => model.holders[mark] ?? []);
  return {
    standing,
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
function implied(standing: Standing, model: Model, when: CompiledCondition, needs: CompiledCondition): Constraint {
  const marks = [...new Set([...marksIn(when), ...marksIn(needs)])];
  return {
    standing,
    variables: variablesIn(marks.flatMap((mark) => model.holders[mark] ?? [])),
    propagate(domains, ground) {
      if (isCertain(when, true, domains, ground)) forceCondition(needs, true, domains, ground);
      else if (isCertain(needs, false, domains, ground)) forceCondition(when, false, domains, ground);
    },
    isSettled: (domains, ground) => !isPossible(when, true, domains, ground) || isCertain(needs, true, domains, ground),
  };
}

/** A condition comes out so. */
export function forced(
  standing: Standing,
  { holders }: Model,
  condition: CompiledCondition,
  outcome: boolean,
): Constraint {
  return {
    standing,
    variables: variablesIn(marksIn(condition).flatMap((mark) => holders[mark] ?? [])),
    propagate: (domains, ground) => forceCondition(condition, outcome, domains, ground),
    isSettled: (domains, ground) => isCertain(condition, outcome, domains, ground),
  };
}

/** So many variables are within their masks. */
export function counted(
  standing: Standing,
  holders: Holders,
  atLeast: number | undefined,
  atMost: number | undefined,
): Constraint {
  const tally = (domains: Domains) => {
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
    standing,
    variables: variablesIn(holders),
    propagate(domains) {
      const { certain, possible } = tally(domains);
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
      const { certain, possible } = tally(domains);
      return (atMost === undefined || possible <= atMost) && (atLeast === undefined || certain >= atLeast);
    },
  };
}

/** A stat keeps within bounds, which may be another stat. */
export function bounded(
  standing: Standing,
  model: Model,
  stat: number,
  atLeast: CompiledBound | undefined,
  atMost: CompiledBound | undefined,
  rangesOf: RangesOf = (each) => new Ranges(model, each),
  apart: "or-equal" | "strictly" = "or-equal",
): Constraint {
  const value = rangesOf(stat);
  const boundOf = (bound: CompiledBound) => (typeof bound === "number" ? bound : rangesOf(bound.stat));
  const gaps = [
    ...(atMost === undefined ? [] : [new Gap(model, { lesser: value, greater: boundOf(atMost) })]),
    ...(atLeast === undefined ? [] : [new Gap(model, { lesser: boundOf(atLeast), greater: value })]),
  ];
  const sign = apart === "strictly" ? -1 : 1;
  return {
    standing,
    variables: [...new Set(gaps.flatMap(({ variables }) => variables))],
    propagate(domains, ground) {
      for (const gap of gaps) gap.close(domains, ground, sign * gap.slack(ground));
    },
    isSettled: (domains, ground) => gaps.every((gap) => gap.isClosed(domains, ground, gap.slack(ground))),
  };
}

function variablesIn(holders: Holders): readonly number[] {
  return [...new Set(holders.map(({ variable }) => variable))];
}
