import { bounded, type Constraint, counted, forced, plain } from "./constraints.ts";
import type { Model } from "./model.ts";

/**
 * The ways in which a rule can be broken: a loadout that breaks it meets all constraints of one of them.
 *
 * The constraints only guide a search; whether the rule is really broken has to be judged at its end.
 */
export function denials(model: Model, number: number): readonly (readonly Constraint[])[] {
  const rule = model.catalog.compiled.rules[number];
  const standing = { kind: "denial" } as const;
  switch (rule?.kind) {
    case "never": {
      const holders = (mark: number) => model.holders[mark] ?? [];
      return rule.marks.flatMap((one, at) =>
        rule.marks
          .slice(at + 1)
          .map((other) =>
            one === other
              ? [counted(standing, holders(one), 2, undefined)]
              : [counted(standing, holders(one), 1, undefined), counted(standing, holders(other), 1, undefined)],
          ),
      );
    }
    case "needs":
      return [[forced(standing, model, rule.when, true), forced(standing, model, rule.needs, false)]];
    case "count": {
      const holders = rule.marks.flatMap((mark) => model.holders[mark] ?? []);
      const [least, most] = [plain(rule.atLeast), plain(rule.atMost)];
      return [
        ...(most === undefined ? [] : [[counted(standing, holders, Math.floor(most) + 1, undefined)]]),
        ...(least === undefined ? [] : [[counted(standing, holders, undefined, Math.ceil(least) - 1)]]),
      ];
    }
    case "total":
      return [
        ...(rule.atMost === undefined
          ? []
          : [[bounded(standing, model, rule.stat, rule.atMost, undefined, undefined, "strictly")]]),
        ...(rule.atLeast === undefined
          ? []
          : [[bounded(standing, model, rule.stat, undefined, rule.atLeast, undefined, "strictly")]]),
      ];
    case undefined:
      return [];
  }
}
