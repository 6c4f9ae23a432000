import { bounded, type Constraint, counted, forced, plain } from "./constraints.ts";
import type { Model } from "./model.ts";
import { reached } from "./threshold.ts";

/**
 * The ways in which a rule can be broken, or give what it gives: a loadout in which it fires meets all constraints of one of
 * them.
 *
 * The constraints only guide a search; whether the rule really fires has to be judged at its end.
 */
export function negations(model: Model, number: number): readonly (readonly Constraint[])[] {
  const rule = model.catalog.compiled.rules[number];
  const origin = { kind: "negation" } as const;
  switch (rule?.kind) {
    case "exclusive": {
      const holders = (mark: number) => model.holders[mark] ?? [];
      return rule.marks.flatMap((one, at) =>
        rule.marks
          .slice(at + 1)
          .map((other) =>
            one === other
              ? [counted(origin, holders(one), 2, undefined)]
              : [counted(origin, holders(one), 1, undefined), counted(origin, holders(other), 1, undefined)],
          ),
      );
    }
    case "implied":
      return [[forced(origin, model, rule.when, true), forced(origin, model, rule.needs, false)]];
    case "counted": {
      const holders = rule.marks.flatMap((mark) => model.holders[mark] ?? []);
      const [least, most] = [plain(rule.atLeast), plain(rule.atMost)];
      return [
        ...(most === undefined ? [] : [[counted(origin, holders, Math.floor(most) + 1, undefined)]]),
        ...(least === undefined ? [] : [[counted(origin, holders, undefined, Math.ceil(least) - 1)]]),
      ];
    }
    case "bounded":
      return [
        ...(rule.atMost === undefined
          ? []
          : [[bounded(origin, model, rule.stat, rule.atMost, undefined, undefined, "strictly")]]),
        ...(rule.atLeast === undefined
          ? []
          : [[bounded(origin, model, rule.stat, undefined, rule.atLeast, undefined, "strictly")]]),
      ];
    case "giving":
      return model.catalog.compiled.sets
        .filter((set) => set.rule === number)
        .map((set) => [reached(origin, model, set)]);
    case undefined:
      return [];
  }
}
