import { type Problem, pointerTo } from "../base/problem.ts";
import type { Catalog, Part } from "../catalog/model/catalog.ts";
import type { Evidence } from "../character/edit.ts";
import type { SearchLimits } from "../loadout/solver.ts";
import { ruleMessages } from "../rules/spoken-kinds.ts";
import { budgetOf } from "../solver/budget-of.ts";
import { Prover } from "../solver/prover.ts";
import { linkMessages, ruleOf } from "./link-messages.ts";

/** Something about a catalog's rules that can come to nothing, with the chain of facts that proves it. */
export interface RuleProblem extends Problem {
  readonly code: "part-never-worn" | "rule-never-fires" | "set-never-worn";
  readonly chain: readonly Evidence[];
}

/** What a survey of rules found. */
export interface RuleSurvey {
  readonly problems: readonly RuleProblem[];
  /** Whether everything was decided; `false` when the budget ran out, and more may be wrong than was found. */
  readonly isProven: boolean;
}

export interface SurveyOptions extends SearchLimits {
  /**
   * Stats to which the game may add whatever it likes: levels, training, a curse. Nothing is called impossible for what they
   * come to.
   *
   * @defaultValue the stats of bodies, and those that parts require
   */
  readonly raised?: readonly string[];
}

/**
 * Finds parts that no valid character can ever wear, and rules that can never fire, each with a proof.
 *
 * Every body is tried, every answer and every signal that rules ask about, and whatever the game may add to stats. A rule fires
 * where it alone is broken; one that never does forbids nothing that the others do not. A set fires where it is worn and nothing
 * is broken. A proof is a set of rules and needs of which none can be left out.
 *
 * @example
 * surveyRules(catalog).problems // → []
 */
export function surveyRules(catalog: Catalog, options: SurveyOptions = {}): RuleSurvey {
  const budget = budgetOf(options);
  const raised = new Set(options.raised ?? raisedStats(catalog));
  const provers = [...catalog.bodies.values()].map((body) => new Prover(catalog, body, { raised }));
  const worn = new Set<Part>();
  for (const prover of provers) prover.addWearable(worn, budget);
  const problems: RuleProblem[] = [];
  for (const part of catalog.parts.values()) {
    if (worn.has(part) || budget.steps <= 0) continue;
    const proofs = provers.map((prover) => prover.prove(part, budget));
    if (budget.steps > 0) problems.push(neverWorn(catalog, part, proofs.flat()));
  }
  for (const number of catalog.rules.keys()) {
    if (provers.some((prover) => prover.canFire(number, budget)) || budget.steps <= 0) continue;
    problems.push(neverFires(catalog, number));
  }
  return { problems, isProven: budget.steps > 0 };
}

/** The stats to which games add: what bodies have, and what parts require. */
function raisedStats({ bodies, parts }: Catalog): readonly string[] {
  return [...bodies.values()]
    .flatMap(({ stats }) => Object.keys(stats))
    .concat([...parts.values()].flatMap(({ requires }) => Object.keys(requires)));
}

function neverWorn(catalog: Catalog, part: Part, chain: readonly Evidence[]): RuleProblem {
  const more = new Map(
    chain.flatMap((fact) => linkMessages(catalog, fact)).map((each) => [JSON.stringify(each), each]),
  );
  return {
    code: "part-never-worn",
    params: { part: part.id },
    more: [...more.values()],
    severity: "warning",
    place: { pointer: pointerTo("parts", part.id) },
    related: [...new Set(chain.flatMap((fact) => ruleOf(catalog, fact)?.place ?? []))],
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
    chain: rule === undefined ? [] : [{ kind: "rule", number, message: rule.message }],
    fixes: [{ code: "remove-rule", params: {} }],
  };
}
