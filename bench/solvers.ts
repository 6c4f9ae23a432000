import highs from "highs";
import { init } from "z3-solver";
import type { LinearModel } from "./linear.ts";

/** What a general solver says of a model, and how long it took; building the model is not counted. */
export interface Verdict {
  /** The least there is, or nothing when there is no answer; `undefined` when it did not come to an end. */
  readonly least: number | "none" | undefined;
  readonly milliseconds: number;
}

// The package describes its own default export as it is for CommonJS.
const loadHighs = highs as unknown as typeof highs.default;

/** HiGHS, as a mixed-integer program. */
export async function byHighs(model: LinearModel, seconds: number): Promise<Verdict> {
  const solver = await loadHighs();
  const text = lpText(model);
  const start = performance.now();
  const { Status, ObjectiveValue } = solver.solve(text, {
    time_limit: seconds,
    mip_rel_gap: 0,
    mip_abs_gap: 0.5,
    output_flag: false,
  });
  const milliseconds = performance.now() - start;
  if (Status === "Infeasible") return { least: "none", milliseconds };
  return { least: Status === "Optimal" ? Math.round(ObjectiveValue) + model.fixed : undefined, milliseconds };
}

function lpText({ variables, rows, costs }: LinearModel): string {
  const side = (terms: readonly (readonly [number, number])[]) =>
    terms.map(([weight, at]) => `${weight < 0 ? "-" : "+"} ${Math.abs(weight)} x${at}`).join(" ");
  return [
    "Minimize",
    ` obj: ${side(costs)}`,
    "Subject To",
    ...rows
      .filter(({ terms }) => terms.length > 0)
      .map(({ terms, atMost }, at) => ` c${at}: ${side(terms)} <= ${atMost}`),
    "Binary",
    ` ${Array.from({ length: variables }, (_, at) => `x${at}`).join(" ")}`,
    "End",
  ].join("\n");
}

let z3: ReturnType<typeof init> | undefined;

/** Ends the threads of Z3, which would keep the process. */
export async function endZ3(): Promise<void> {
  (await z3)?.em.PThread.terminateAllThreads();
  z3 = undefined;
}

/** Z3, minimizing pseudo-boolean constraints. */
export async function byZ3({ variables, rows, costs, fixed }: LinearModel, seconds: number): Promise<Verdict> {
  z3 ??= init();
  const { Context } = await z3;
  const { Optimize, Bool, PbLe, Not } = Context("main");
  const solver = new Optimize();
  solver.set("timeout", seconds * 1_000);
  const all = Array.from({ length: variables }, (_, at) => Bool.const(`x${at}`));
  const literal = (at: number, holds: boolean) => {
    const variable = all[at] ?? Bool.val(false);
    return holds ? variable : Not(variable);
  };
  for (const { terms, atMost } of rows) {
    const counted = terms.filter(([weight]) => weight !== 0);
    if (counted.length === 0) continue;
    // A negative weight of a variable is a positive one of its negation.
    const below = counted.reduce((sum, [weight]) => sum + Math.min(0, weight), 0);
    const literals = counted.map(([weight, at]) => literal(at, weight > 0));
    solver.add(PbLe(literals as never, counted.map(([weight]) => Math.abs(weight)) as never, atMost - below));
  }
  for (const [cost, at] of costs) solver.addSoft(literal(at, cost < 0), 1);
  const start = performance.now();
  const verdict = await solver.check();
  const milliseconds = performance.now() - start;
  if (verdict === "unsat") return { least: "none", milliseconds };
  if (verdict !== "sat") return { least: undefined, milliseconds };
  const found = solver.model();
  const least = costs.reduce(
    (sum, [cost, at]) => sum + cost * (String(found.eval(literal(at, true), true)) === "true" ? 1 : 0),
    fixed,
  );
  return { least, milliseconds };
}
