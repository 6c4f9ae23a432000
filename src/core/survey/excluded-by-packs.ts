import type { Problem } from "../base/problem.ts";
import type { Catalog } from "../catalog/model/catalog.ts";
import { inPack } from "../catalog/pack-paths.ts";
import { type RuleProblem, surveyRules } from "./survey-rules.ts";

/**
 * What a survey of rules found, where parts that only packs make impossible to wear are errors: players have them on.
 *
 * @param found - what `surveyRules` found in a catalog with packs.
 * @param base - the same catalog without.
 */
export function excludedByPacks(found: readonly RuleProblem[], base: Catalog): readonly Problem[] {
  const isExcluded = ({ code, params }: RuleProblem) =>
    code === "part-never-worn" && base.parts.has(String(params["part"]));
  if (!found.some(isExcluded)) return found;
  const before = new Set(surveyRules(base).problems.map(({ code, params }) => `${code} ${params["part"]}`));
  return found.map((problem): Problem => {
    const { code, params, related = [], chain: _, ...rest } = problem;
    if (!isExcluded(problem) || before.has(`${code} ${params["part"]}`)) return problem;
    const packs = new Set(related.flatMap(({ file = "" }) => inPack(file)?.pack ?? []));
    return {
      ...rest,
      code: "part-excluded-by-pack",
      params: { ...params, packs: [...packs] },
      severity: "error",
      related,
      fixes: [{ code: "mend-part-excluded-by-pack", params: {} }],
    };
  });
}
