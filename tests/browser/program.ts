import { spawnSync } from "node:child_process";

/** A program of the tests for a page, in one piece of JavaScript. */
export function programOf(entry: string): string {
  const call = ["scripts/print-bundle.ts", `tests/browser/${entry}`];
  const { stdout, stderr } = spawnSync("node_modules/.bin/tsx", call, { encoding: "utf8", maxBuffer: 1e8 });
  if (stdout === "") throw new Error(`${entry} could not be bundled: ${stderr}`);
  return stdout;
}
