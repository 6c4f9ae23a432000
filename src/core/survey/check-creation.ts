import { type FixCode, type Message, message, type ProblemCode } from "../base/message.ts";
import { type Problem, pointerTo, type Severity } from "../base/problem.ts";
import { listPaths } from "../catalog/list-paths.ts";
import type { Catalog } from "../catalog/model/catalog.ts";
import { checkFacts } from "./check-facts.ts";

/** Finds steps of the creation flow that nobody is ever asked, steps that lead in a circle, so that nobody gets out, and conditions on answers that nobody can give. */
export function checkCreation(catalog: Catalog): readonly Problem[] {
  const { paths, circles, complete } = listPaths(catalog);
  const endless = circles.map((steps) => {
    const [step = ""] = steps;
    const finding = message("steps-in-circle", { steps, step });
    return found(finding, "error", "mend-steps-in-circle", [steps.at(-1) ?? "", "next"]);
  });
  if (!complete || circles.length > 0) return endless;
  const reached = new Set(paths.flat());
  const facts = checkFacts(catalog);
  // Where its own condition never holds, that is why.
  const isSaid = (step: string) =>
    facts.some(({ place }) => place.pointer === pointerTo("creation", "steps", step, "if"));
  const unreachable = [...(catalog.creation?.steps.keys() ?? [])]
    .filter((step) => !reached.has(step) && !isSaid(step))
    .map((step) => found(message("step-unreachable", { step }), "warning", "mend-step-unreachable", [step]));
  return [...unreachable, ...facts];
}

function found(
  { code, params }: Message<ProblemCode>,
  severity: Severity,
  fix: FixCode,
  keys: readonly string[],
): Problem {
  const place = { pointer: pointerTo("creation", "steps", ...keys) };
  return { code, params, severity, place, fixes: [{ code: fix, params: {} }] };
}
