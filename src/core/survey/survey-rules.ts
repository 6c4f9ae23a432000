import { type Message, message } from "../base/message.ts";
import { type Problem, pointerTo } from "../base/problem.ts";
import type { Catalog, Part, Rule } from "../catalog/model/catalog.ts";
import type { Evidence } from "../character/edit.ts";
import { findAny } from "../loadout/solve/find-any.ts";
import { type Model, openModel } from "../loadout/solve/model.ts";
import { negations } from "../loadout/solve/negations.ts";
import { prove } from "../loadout/solve/prove.ts";
import { type Budget, Solver } from "../loadout/solve/solver.ts";
import type { LoadoutState } from "../rules/loadout-state.ts";
import { ruleMessages } from "../rules/spoken-kinds.ts";

/** Something about a catalog's rules that can come to nothing, with the chain of facts that proves it. */
export interface RuleProblem extends Problem {
  readonly code: "part-never-worn" | "rule-never-fires" | "set-never-worn";
  readonly chain: readonly Evidence[];
}

/** What a survey of rules found. */
export interface RuleSurvey {
  readonly problems: readonly RuleProblem[];
  /** Whether everything was decided; `false` when the budget ran out, and more may be wrong than was found. */
  readonly complete: boolean;
}

export interface SurveyOptions {
  /** Search steps before giving up. @defaultValue `200_000` */
  readonly budget?: number;
}

/**
 * Finds parts that no valid character can ever wear, and rules that can never fire, each with a proof.
 *
 * Every body is tried, every answer and every signal that rules ask about. A rule fires where it alone is broken; one that
 * never does forbids nothing that the others do not. A set fires where it is worn and nothing is broken. A proof is a set of rules and needs of which none can be left out.
 *
 * @example
 * surveyRules(catalog).problems.map((problem) => format(problem, english))
 * // → ['"cork-vest" can never be worn. In slot "vest": …']
 */
export function surveyRules(catalog: Catalog, options: SurveyOptions = {}): RuleSurvey {
  const budget = { steps: options.budget ?? 200_000 };
  const models = [...catalog.bodies.values()].map((body) => openModel(catalog, body));
  const worn = wearable(models, budget);
  const problems: RuleProblem[] = [];
  for (const part of catalog.parts.values()) {
    if (!worn.has(part) && budget.steps > 0) problems.push(neverWorn(part, models, budget));
  }
  for (const number of catalog.rules.keys()) {
    const fires = models.some((model) => canFire(model, number, budget));
    if (!fires && budget.steps > 0) problems.push(neverFires(catalog, number));
  }
  return { problems, complete: budget.steps > 0 };
}

/** The parts that are worn in some valid loadout. Each answer shows many, so few searches do. */
function wearable(models: readonly Model[], budget: Budget): ReadonlySet<Part> {
  const worn = new Set<Part>();
  for (const model of models) {
    const solver = new Solver(model, {}, {});
    if (!solver.start()) continue;
    const root = solver.domains.save();
    for (const [variable, { values }] of model.variables.entries()) {
      for (const [value, { parts }] of values.entries()) {
        if (parts.every((part) => worn.has(part)) || budget.steps <= 0) continue;
        solver.domains.fix(variable, value);
        const found = solver.domains.failed ? undefined : findAny(solver, budget);
        solver.domains.restore(root);
        if (found?.kind !== "found") continue;
        for (const [each, shown] of found.values.entries()) {
          for (const part of model.variables[each]?.values[shown]?.parts ?? []) worn.add(part);
        }
      }
    }
  }
  return worn;
}

function canFire(model: Model, rule: number, budget: Budget): boolean {
  return negations(model, rule).some((extra) => {
    const solver = new Solver(model, {}, {}, extra);
    for (const [number, { origin }] of solver.constraints.entries()) {
      if (origin.kind === "rule" && origin.rule === rule) solver.waived[number] = 1;
    }
    const accepts = (values: readonly number[]) =>
      solver.judge(values).length === 0 && fires(solver.state(values), rule);
    return solver.start() && findAny(solver, budget, { accepts }).kind === "found";
  });
}

/** Whether a rule is broken, or gives what it gives. */
function fires(state: LoadoutState, number: number): boolean {
  const { rules, sets } = state.catalog.compiled;
  const rule = rules[number];
  const isBroken = rule !== undefined && state.breaks(rule);
  return isBroken || sets.some((set) => set.rule === number && state.isReached(set));
}

function neverWorn(part: Part, models: readonly Model[], budget: Budget): RuleProblem {
  const chain = models.flatMap((model) => prove(model, part, budget));
  const more = new Map(chain.flatMap((fact) => linkMessages(models, fact)).map((each) => [JSON.stringify(each), each]));
  return {
    code: "part-never-worn",
    params: { part: part.id },
    more: [...more.values()],
    severity: "warning",
    place: { pointer: pointerTo("parts", part.id) },
    related: [...new Set(chain.flatMap((fact) => ruleOf(models, fact)?.place ?? []))],
    chain,
    fixes: [{ code: "loosen-one", params: {} }],
  };
}

function neverFires(catalog: Catalog, number: number): RuleProblem {
  const rule = catalog.rules[number];
  return {
    code: rule?.kind === "set" ? "set-never-worn" : "rule-never-fires",
    params: {},
    more: rule === undefined ? [] : ruleMessages(rule),
    severity: "warning",
    place: rule?.place ?? { pointer: pointerTo("rules", number) },
    chain: rule === undefined ? [] : [{ kind: "rule", number, say: rule.say }],
    fixes: [{ code: "remove-rule", params: {} }],
  };
}

/** The rule that a link of a proof is about. */
function ruleOf([model]: readonly Model[], fact: Evidence): Rule | undefined {
  return fact.kind === "rule" || fact.kind === "set" ? model?.catalog.rules[fact.number] : undefined;
}

/** A link of a proof as sentences. */
function linkMessages(models: readonly Model[], fact: Evidence): readonly Message[] {
  switch (fact.kind) {
    case "rule":
    case "set": {
      const rule = ruleOf(models, fact);
      return rule === undefined ? [] : ruleMessages(rule);
    }
    case "need":
      return [message("rule-of-need", { part: fact.part, min: fact.min, stat: fact.stat })];
    case "required":
      return [message("required-slot", { slot: fact.slot })];
    default:
      return [];
  }
}
