/** Measures rows of two versions in turns: this one, and that of another commit, in a folder of its own. */
import { execFileSync, spawnSync } from "node:child_process";
import { existsSync, symlinkSync } from "node:fs";
import { join, resolve } from "node:path";
import { median } from "./measure.ts";

/** What a row came to in both versions, in its unit. */
export interface Compared {
  readonly name: string;
  readonly now: number;
  readonly then: number;
  /** How many times as long it takes now: the median of the turns, and from where to where they go. */
  readonly ratio: number;
  readonly min: number;
  readonly max: number;
}

const turns = 5;

/**
 * Measures rows in this version and in that of a commit, one after the other, so that whatever else the machine does meets both alike.
 *
 * @throws Error when the commit cannot be checked out, or a row gives no result in one of them.
 */
export function* compareCommits(names: readonly string[], commit: string): Generator<Compared> {
  const other = checkOut(commit);
  for (const name of names) {
    const pairs = Array.from({ length: turns }, () => [takenIn(".", name), takenIn(other, name)] as const);
    const ratios = pairs.map(([now, then]) => now / then);
    yield {
      name,
      now: median(pairs.map(([now]) => now)),
      then: median(pairs.map(([, then]) => then)),
      ratio: median(ratios),
      min: Math.min(...ratios),
      max: Math.max(...ratios),
    };
  }
}

/** The folder of a commit, built, with the packages of this one. */
function checkOut(commit: string): string {
  const id = execFileSync("git", ["rev-parse", "--short", commit], { encoding: "utf8" }).trim();
  const folder = resolve("out", `bench-${id}`);
  if (existsSync(join(folder, "dist"))) return folder;
  execFileSync("git", ["worktree", "add", "--force", "--detach", folder, commit], { stdio: "ignore" });
  symlinkSync(resolve("node_modules"), join(folder, "node_modules"));
  for (const script of ["build:code", "build"]) {
    // Older commits have no build of the code alone.
    if (existsSync(join(folder, "dist"))) break;
    spawnSync("npm", ["run", script, "--silent", "--if-present"], { cwd: folder, stdio: "ignore" });
  }
  if (!existsSync(join(folder, "dist"))) throw new Error(`Commit ${id} cannot be built, in ${folder}`);
  return folder;
}

function takenIn(folder: string, name: string): number {
  const call = ["--tsconfig", "bench/tsconfig.json", "bench/main.ts", "--only", name, "--json"];
  const { stdout, stderr } = spawnSync("node_modules/.bin/tsx", call, { cwd: folder, encoding: "utf8" });
  const [result]: readonly { readonly ours?: number }[] = stdout === "" ? [] : JSON.parse(stdout);
  if (result?.ours === undefined) throw new Error(`Row "${name}" gave no result in ${folder}: ${stderr.slice(-500)}`);
  return result.ours;
}
