/** Measures each promise of speed against what a developer would otherwise use: `npm run bench`. */
import { spawnSync } from "node:child_process";
import { Command } from "commander";
import pc from "picocolors";
import { compareCommits } from "./compare-commits.ts";
import { type Goal, type Limit, median, type Row } from "./measure.ts";
import { rows } from "./rows.ts";

const program = new Command("bench")
  .option("--only <row>", `one row: ${rows.map(({ name }) => name).join(", ")}`)
  .option("--against <commit>", "measure this version and that of a commit in turns, and print what changed")
  .option("--json", "print data for programs")
  .parse();
const { only, json, against } = program.opts<{ only?: string; json?: boolean; against?: string }>();
const chosen = only === undefined ? rows : rows.filter(({ name }) => name === only);
if (chosen.length === 0) program.error(`There is no row "${only}".`);

if (against !== undefined) {
  const names = chosen.map(({ name }) => name);
  for (const { name, now, then, ratio, min, max } of compareCommits(names, against)) {
    const change = ratio > 1.05 ? pc.red("slower") : ratio < 0.95 ? pc.green("faster") : "equal ";
    const spread = `${min.toPrecision(3)} to ${max.toPrecision(3)}`;
    console.log(
      `${name.padEnd(13)} ${change} ${ratio.toPrecision(3)}× the time (${spread}), ${now.toPrecision(3)} against ${then.toPrecision(3)}`,
    );
  }
  process.exit();
}

let isFirst = true;
for (const row of chosen) {
  const result = chosen.length === 1 ? await resultOf(row).catch((error) => failureOf(row, error)) : resultApart(row);
  if (!("holds" in result) || !result.holds) process.exitCode = 1;
  // As they come, so that nothing is lost of a run that is ended early.
  if (json) process.stdout.write(`${isFirst ? "[" : ","}\n${JSON.stringify(result, null, 2)}`);
  else
    console.log(
      "holds" in result ? lineOf(row, result) : `${row.name.padEnd(13)} ${pc.red("failed")}  ${result.failed}`,
    );
  isFirst = false;
}
if (json) console.log("\n]");

/** A row that gave no result, and why. */
interface Failure {
  readonly name: string;
  readonly failed: string;
}

/** What `--json` prints of a row. */
interface Result {
  readonly name: string;
  readonly ours: number;
  readonly theirs: number;
  readonly against: string;
  readonly unit: string;
  /** How many times as long theirs takes; for a goal of `atMost`, how many times as long ours takes. */
  readonly ratio: number;
  readonly goal: Goal;
  readonly holds: boolean;
  readonly limit?: Limit;
  /** The ratio over the turns it was measured in. */
  readonly noise?: { readonly min: number; readonly median: number; readonly max: number };
}

/** Measures a row in a process of its own, so that no row pays for the garbage of another. */
function resultApart({ name }: Row): Result | Failure {
  const [script = ""] = process.argv.slice(1);
  const call = [...process.execArgv, script, "--only", name, "--json"];
  const { stdout, stderr } = spawnSync(process.execPath, call, { encoding: "utf8" });
  try {
    const [result]: readonly (Result | Failure)[] = JSON.parse(stdout);
    if (result !== undefined) return result;
  } catch {
    // What it printed instead is in the failure.
  }
  return { name, failed: `It gave no result: ${stderr.trim().slice(-500)}` };
}

function failureOf({ name }: Row, error: unknown): Failure {
  return { name, failed: error instanceof Error ? error.message : String(error) };
}

async function resultOf({ name, against, unit, goal, measure }: Row): Promise<Result> {
  const { ours, theirs, limit, turns } = await measure();
  const ratio = "atLeast" in goal ? theirs / ours : ours / theirs;
  const holds = "atLeast" in goal ? ratio >= goal.atLeast : ratio <= goal.atMost;
  const ratios = "atLeast" in goal ? turns : turns?.map((each) => 1 / each);
  return {
    ...{ name, ours, theirs, against, unit, ratio, goal, holds },
    ...(limit !== undefined && { limit }),
    ...(ratios !== undefined && {
      noise: { min: Math.min(...ratios), median: median(ratios), max: Math.max(...ratios) },
    }),
  };
}

function lineOf(
  { work }: Row,
  { name, ours, theirs, against, unit, ratio, goal, holds, limit, noise }: Result,
): string {
  const sought = "atLeast" in goal ? `at least ${goal.atLeast}× faster` : `at most ${goal.atMost}× the time`;
  const verdict = holds ? pc.green("holds ") : pc.red("misses");
  const figures = `${ours.toPrecision(3)} ${unit} against ${theirs.toPrecision(3)} ${unit}`;
  const least = limit === undefined ? "" : `; ${limit.what} takes ${limit.takes.toPrecision(3)} ${unit}`;
  const spread = noise === undefined ? "" : `, ${noise.min.toPrecision(3)} to ${noise.max.toPrecision(3)}`;
  return `${name.padEnd(13)} ${verdict} ${`${ratio.toPrecision(3)}×`.padStart(7)}${spread}  (${sought})  ${work}, ${figures} by ${against}${least}`;
}
