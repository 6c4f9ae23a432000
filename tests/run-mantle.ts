import { spawnSync } from "node:child_process";
import { run } from "../src/cli/run.ts";

export interface Run {
  readonly status: number | null;
  readonly stdout: string;
  readonly stderr: string;
}

/** Runs the command line in this process: the same program that `mantle` starts, with text in place of a terminal. */
export function mantle(...args: readonly string[]): Promise<Run> {
  return runWith(args, false);
}

/** The same with text in place of a terminal that has colors. */
export function mantleInColor(...args: readonly string[]): Promise<Run> {
  return runWith(args, true);
}

async function runWith(args: readonly string[], color: boolean): Promise<Run> {
  let [stdout, stderr] = ["", ""];
  const status = await run(args, {
    stdout: { write: (text) => (stdout += text) },
    stderr: { write: (text) => (stderr += text) },
    color,
  });
  return { status, stdout, stderr };
}

/**
 * Runs the built command line as a process, as a user would; a few tests of what only a process has.
 *
 * @param input - what standard input holds.
 */
export function mantleProcess(args: readonly string[], env: NodeJS.ProcessEnv = { NO_COLOR: "1" }, input = ""): Run {
  const { status, stdout, stderr } = spawnSync(process.execPath, ["dist/js/mantle.js", ...args], {
    encoding: "utf8",
    input,
    env: { ...process.env, ...env },
  });
  return { status, stdout, stderr };
}
