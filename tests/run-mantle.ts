import { spawnSync } from "node:child_process";

export interface Run {
  readonly status: number | null;
  readonly stdout: string;
  readonly stderr: string;
}

/** Runs the built command line as a process, as a user would. */
export function mantle(...args: readonly string[]): Run {
  const { status, stdout, stderr } = spawnSync(process.execPath, ["dist/cli/main.js", ...args], {
    encoding: "utf8",
    env: { ...process.env, NO_COLOR: "1" },
  });
  return { status, stdout, stderr };
}
