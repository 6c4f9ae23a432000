import { spawnSync } from "node:child_process";
import { availableParallelism } from "node:os";
import { agree, median, type Pair, type Row } from "../measure.ts";

/** How often each is measured, in a process of its own each time. */
const turns = 5;

/** The most memory that some work takes besides what was there before, against a budget in megabytes. */
function memoryRow(name: string, work: string, budget: number): Row {
  return {
    name: `memory-${name}`,
    work: `memory at its most: ${work}`,
    against: "its budget",
    unit: "MB",
    goal: { atMost: 1 },
    async measure(): Promise<Pair> {
      const taken = Array.from({ length: turns }, () => grownBy(name));
      return { ours: median(taken), theirs: budget, turns: taken.map((each) => budget / each) };
    },
  };
}

function grownBy(name: string): number {
  const call = ["--tsconfig", "bench/tsconfig.json", "bench/memory-work.ts", name];
  const { stdout, stderr } = spawnSync("node_modules/.bin/tsx", call, { encoding: "utf8" });
  const grown = Number.parseFloat(stdout);
  agree(Number.isFinite(grown), `no measure of ${name}: ${stderr.slice(-500)}`);
  // A machine may grow by nothing at all where all of it was there before.
  return Math.max(grown, 0.1);
}

export const memoryRows: readonly Row[] = [
  memoryRow("repairs", "the hard catalogs, mended one after the other", 32),
  memoryRow("art", "every pixel of the demo checked, in a thread for each processor", 160 * availableParallelism()),
  memoryRow("survey", "characters that show every pair of the demo", 32),
  memoryRow("crowd", "two hundred figures, each of its own look, that walk in all facings in one atlas", 140),
];
