/** After the tests: stops what a test file has started for all of them, and removes the folder of the run. */
import { existsSync, readFileSync, rmSync } from "node:fs";
import { join } from "node:path";

export default function stop() {
  const folder = process.env.MANTLE_TEST_RUN;
  if (folder === undefined) return;
  const running = join(folder, "postgres/data/postmaster.pid");
  // Its first line is the number of the process.
  if (existsSync(running)) end(Number.parseInt(readFileSync(running, "utf8"), 10));
  rmSync(folder, { recursive: true, force: true, maxRetries: 20, retryDelay: 100 });
}

/** Ends a process, if it has not ended by itself. */
function end(id) {
  try {
    process.kill(id, "SIGQUIT");
  } catch (error) {
    if (error.code !== "ESRCH") throw error;
  }
}
