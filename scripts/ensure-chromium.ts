/** Makes sure that the browser tests have a browser: Debian's Chromium, installed when it is missing and we may. */
import { spawnSync } from "node:child_process";
import { existsSync } from "node:fs";
import { chromiumPath } from "./browser.ts";

if (!existsSync(chromiumPath)) {
  if (process.getuid?.() !== 0 || !existsSync("/usr/bin/apt-get")) {
    console.error(`The browser tests need Chromium at ${chromiumPath}, and this user may not install it.`);
    console.error(
      "Install it (on Debian: sudo apt-get install chromium-headless-shell), or set CHROMIUM to where it is.",
    );
    process.exit(1);
  }
  console.log("Installing Debian's Chromium for the browser tests …");
  run("apt-get", ["update"]);
  run("apt-get", ["install", "--yes", "--no-install-recommends", "chromium-headless-shell"]);
  if (!existsSync(chromiumPath)) {
    console.error(
      `Debian's Chromium is installed, and still there is nothing at ${chromiumPath}. Is CHROMIUM set wrongly?`,
    );
    process.exit(1);
  }
}

function run(command: string, args: readonly string[]): void {
  const { status, stderr, stdout } = spawnSync(command, args, {
    encoding: "utf8",
    env: { ...process.env, DEBIAN_FRONTEND: "noninteractive" },
  });
  if (status === 0) return;
  console.error(`${command} ${args.join(" ")} failed:\n${stdout.slice(-2000)}${stderr}`);
  process.exit(1);
}
