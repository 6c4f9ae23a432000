import type { CompiledBound, CompiledCondition, CompiledRule } from "../../catalog/model/catalog.ts";
import type { Broken } from "../../rules/find-broken.ts";
import type { LoadoutState } from "../../rules/loadout-state.ts";
import type { Holders, Model } from "./model.ts";

/** A complete assignment: the number of the value of each variable, with issued and covered kept distinct. */
export interface Assignment {
  readonly model: Model;
  readonly values: readonly number[];
  readonly state: LoadoutState;
}

/**
 * Variables of which at least one must change before something broken can hold.
 *
 * The fewer the better: where several must change, any one of them will do.
 */
export function conflictSet(broken: Broken, at: Assignment): readonly number[] {
  const { model } = at;
  switch (broken.kind) {
    case "misplaced":
    case "misfit":
      return [broken.slot];
    case "never":
      return spread(model, [broken.one, broken.other]);
    case "taken-twice": {
      const [one, other] = (model.takers[broken.slot] ?? []).filter((holder) => isIn(holder, at));
      return spread(
        model,
        [one, other].flatMap((holder) => (holder === undefined ? [] : [holder.variable])),
      );
    }
    case "empty":
      return spread(model, [broken.slot, ...(model.takers[broken.slot] ?? []).map(({ variable }) => variable)]);
    case "need":
      return spread(model, [broken.slot, ...givers(model, broken.stat)]);
    case "rule": {
      const rule = model.catalog.compiled.rules[broken.rule];
      return rule === undefined ? [] : spread(model, variablesOfRule(rule, at));
    }
  }
}

function variablesOfRule(rule: CompiledRule, at: Assignment): readonly number[] {
  const { model } = at;
  switch (rule.kind) {
    case "implied":
      return [...toMake(rule.when, false, at), ...toMake(rule.needs, true, at)];
    case "counted": {
      const holders = rule.marks.flatMap((mark) => model.holders[mark] ?? []);
      const having = holders.filter((holder) => isIn(holder, at)).map(({ variable }) => variable);
      const most = Number(rule.atMost ?? Number.POSITIVE_INFINITY);
      if (having.length > most) return having.slice(0, Math.floor(most) + 1);
      return holders.filter((holder) => !isIn(holder, at)).map(({ variable }) => variable);
    }
    case "bounded":
      return [rule.stat, ...statsIn(rule.atLeast), ...statsIn(rule.atMost)].flatMap((stat) => givers(model, stat));
    case "giving":
      return [];
    case "exclusive":
      return rule.marks.flatMap((mark) => (model.holders[mark] ?? []).map(({ variable }) => variable));
  }
}

/** Variables of which one must change before a condition, which does not come out so now, can. */
function toMake(condition: CompiledCondition, outcome: boolean, at: Assignment): readonly number[] {
  switch (condition.kind) {
    case "mark": {
      const holders = at.model.holders[condition.mark] ?? [];
      if (outcome) return holders.map(({ variable }) => variable);
      // Every holder must let go of it, so one of them will do.
      return holders
        .filter((holder) => isIn(holder, at))
        .slice(0, 1)
        .map(({ variable }) => variable);
    }
    case "any":
    case "all": {
      const wrong = condition.of.filter((each) => at.state.holds(each) !== outcome);
      const each = wrong.map((part) => toMake(part, outcome, at));
      // Where one change is enough, any of them may be it; where all must change, the smallest set will do.
      if ((condition.kind === "any") === outcome) return each.flat();
      return each.reduce((fewest, next) => (next.length < fewest.length ? next : fewest), each[0] ?? []);
    }
    case "not":
      return condition.of.flatMap((inner) => toMake(inner, !outcome, at));
  }
}

function isIn({ variable, mask }: Holders[number], { values }: Assignment): boolean {
  const value = values[variable] ?? 0;
  return (((mask[value >>> 5] ?? 0) >>> (value & 31)) & 1) === 1;
}

/** Variables that give to a stat, or can make up a set that does. */
function givers(model: Model, stat: number): readonly number[] {
  return model.variables.flatMap(({ set, values }, variable) => {
    if (!values.some(({ gives }) => gives.some((gift) => gift.stat === stat))) return [];
    if (set === undefined) return [variable];
    return set.marks.flatMap((mark) => (model.holders[mark] ?? []).map((holder) => holder.variable));
  });
}

function statsIn(bound: CompiledBound | undefined): readonly number[] {
  return typeof bound === "object" ? [bound.stat] : [];
}

/** The variables, with those that make a default come and go by taking its slot. */
function spread(model: Model, variables: readonly number[]): readonly number[] {
  const all = new Set(variables);
  for (const variable of variables) {
    if (!model.variables[variable]?.values.some(({ kind }) => kind === "issued")) continue;
    for (const chooser of model.choosers[variable] ?? []) all.add(chooser.variable);
  }
  return [...all];
}
