import type { Part } from "../../catalog/model/catalog.ts";
import type { Evidence } from "../../character/edit.ts";
import type { Origin } from "./constraints.ts";
import { findAny } from "./find-any.ts";
import type { Model } from "./model.ts";
import { type Budget, Solver } from "./solver.ts";

/**
 * Proves that no valid loadout of a model has a part, as a chain of facts: where it would be worn, and then needs, rules and
 * required slots of which none can be left out, in the order in which they explain it.
 *
 * Leaves out one after another whatever the rest does not need: J. W. Chinneck, E. W. Dravnieks, "Locating minimal infeasible
 * constraint sets in linear programs" (1991), the deletion filter.
 */
export function prove(model: Model, part: Part, budget: Budget): readonly Evidence[] {
  return model.variables.flatMap(({ slot, values }, variable): readonly Evidence[] => {
    const value = values.findIndex(({ parts }) => parts.includes(part));
    if (slot === undefined || value < 0) return [];
    const worn: Evidence = { kind: "worn", part: part.id, slot: slot.id, issued: values[value]?.kind === "issued" };
    const links = reasons(model, variable, value, budget).flatMap((origin) => linkOf(model, origin));
    return [{ kind: "body", id: model.body.id }, worn, ...links];
  });
}

/** A set of constraints that rule a value out, of which none can be left out. */
function reasons(model: Model, variable: number, value: number, budget: Budget): readonly Origin[] {
  const { constraints } = new Solver(model, {}, {});
  const refutes = (kept: ReadonlySet<number>): readonly number[] | undefined => {
    const solver = new Solver(model, {}, {});
    for (const [number, { origin }] of constraints.entries()) {
      if (origin.kind !== "place" && origin.kind !== "bonus" && !kept.has(number)) solver.waived[number] = 1;
    }
    solver.trace = new Set();
    solver.domains.fix(variable, value);
    const refuted = !solver.start() || findAny(solver, budget).kind === "none";
    return refuted ? [...solver.trace] : undefined;
  };
  const all = new Set(constraints.keys());
  let needed = new Set(refutes(all) ?? []);
  for (const number of [...needed]) {
    if (!needed.has(number)) continue;
    const fewer = new Set(needed);
    fewer.delete(number);
    const traced = refutes(fewer);
    // What took no part in the shorter proof can go as well.
    if (traced !== undefined) needed = new Set(traced.filter((each) => fewer.has(each)));
  }
  const traced = refutes(needed) ?? [];
  return traced.flatMap((number) => {
    const origin = constraints[number]?.origin;
    return origin === undefined || origin.kind === "place" ? [] : [origin];
  });
}

function linkOf(model: Model, origin: Origin): readonly Evidence[] {
  switch (origin.kind) {
    case "rule":
    case "bonus": {
      const kind = origin.kind === "rule" ? "rule" : "set";
      return [{ kind, number: origin.rule, say: model.catalog.rules[origin.rule]?.say }];
    }
    case "need": {
      const { parts = [], needs = [] } = model.variables[origin.slot]?.values[origin.value] ?? {};
      const min = needs.find(({ stat }) => stat === origin.stat)?.atLeast ?? 0;
      const stat = model.catalog.compiled.stats[origin.stat]?.id ?? "";
      return [{ kind: "need", part: parts[0]?.id ?? "", stat, min }];
    }
    case "required":
      return [{ kind: "required", slot: model.variables[origin.slot]?.slot?.id ?? "" }];
    case "place":
    case "negation":
      return [];
  }
}
