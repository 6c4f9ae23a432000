/** Measures each promise of speed against what a developer would otherwise use: `npm run bench`. */
import { spawnSync } from "node:child_process";
import { Command } from "commander";
import pc from "picocolors";
import type { Goal, Limit, Row } from "./measure.ts";
import { rows } from "./rows.ts";

const program = new Command("bench")
  .option("--only <row>", `one row: ${rows.map(({ name }) => name).join(", ")}`)
  .option("--json", "print data for programs")
  .parse();
const { only, json } = program.opts<{ only?: string; json?: boolean }>();
const chosen = only === undefined ? rows : rows.filter(({ name }) => name === only);
if (chosen.length === 0) program.error(`There is no row "${only}".`);

const results: Result[] = [];
for (const row of chosen) {
  const result = chosen.length === 1 ? await resultOf(row) : resultApart(row);
  results.push(result);
  if (!json) console.log(lineOf(row, result));
}
if (json) console.log(JSON.stringify(results, null, 2));
if (results.some(({ holds }) => !holds)) process.exitCode = 1;

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
}

/** Measures a row in a process of its own, so that no row pays for the garbage of another. */
function resultApart({ name }: Row): Result {
  const [script = ""] = process.argv.slice(1);
  const call = [...process.execArgv, script, "--only", name, "--json"];
  const { stdout, stderr } = spawnSync(process.execPath, call, { encoding: "utf8" });
  if (stdout === "") throw new Error(`Row "${name}" failed: ${stderr}`);
  const [result]: readonly Result[] = JSON.parse(stdout);
  if (result === undefined) throw new Error(`Row "${name}" gave no result`);
  return result;
}

async function resultOf({ name, against, unit, goal, measure }: Row): Promise<Result> {
  const { ours, theirs, limit } = await measure();
  const ratio = "atLeast" in goal ? theirs / ours : ours / theirs;
  const holds = "atLeast" in goal ? ratio >= goal.atLeast : ratio <= goal.atMost;
  return { name, ours, theirs, against, unit, ratio, goal, holds, ...(limit === undefined ? {} : { limit }) };
}

function lineOf({ work }: Row, { name, ours, theirs, against, unit, ratio, goal, holds, limit }: Result): string {
  const sought = "atLeast" in goal ? `at least ${goal.atLeast}× faster` : `at most ${goal.atMost}× the time`;
  const verdict = holds ? pc.green("holds ") : pc.red("misses");
  const figures = `${ours.toPrecision(3)} ${unit} against ${theirs.toPrecision(3)} ${unit}`;
  const least = limit === undefined ? "" : `; ${limit.what} takes ${limit.takes.toPrecision(3)} ${unit}`;
  return `${name.padEnd(13)} ${verdict} ${`${ratio.toPrecision(3)}×`.padStart(7)}  (${sought})  ${work}, ${figures} by ${against}${least}`;
}
