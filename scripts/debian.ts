/** Packages of Debian that tests need, installed where we may. */
import { spawnSync } from "node:child_process";
import { existsSync } from "node:fs";

/** Whether this user may install packages. */
export const mayInstall = process.getuid?.() === 0 && existsSync("/usr/bin/apt-get");

/** Runs a command; returns what it printed when it failed. */
export function run(command: string, args: readonly string[]): string | undefined {
  const { status, stderr, stdout } = spawnSync(command, args, {
    encoding: "utf8",
    env: { ...process.env, DEBIAN_FRONTEND: "noninteractive" },
  });
  return status === 0 ? undefined : `${command} ${args.join(" ")} failed:\n${stdout.slice(-2000)}${stderr}`;
}
