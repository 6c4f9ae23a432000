/** After the tests: stops what a test file has started for all of them, and removes the folder of the run. */
import { existsSync, readFileSync, rmSync } from "node:fs";
import { join } from "node:path";

export default function stop() {
  const folder = process.env.MANTLE_TEST_RUN;
  if (folder === undefined) return;
  const running = join(folder, "postgres/data/postmaster.pid");
  // Its first line is the number of the process.
  if (existsSync(running)) process.kill(Number.parseInt(readFileSync(running, "utf8"), 10), "SIGQUIT");
  rmSync(folder, { recursive: true, force: true, maxRetries: 20, retryDelay: 100 });
}
