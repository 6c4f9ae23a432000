/** Before the tests: a folder of this run, for what test files share. */
import { chmodSync, mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

export default function start() {
  // A long run tries new input each time; with the seed that it prints at its end, it is the same again.
  if (process.env.MANTLE_LONG === "1") process.env.MANTLE_SEED ??= String(Date.now() % 2 ** 31);
  if (process.env.MANTLE_TEST_RUN !== undefined) return;
  const folder = mkdtempSync(join(tmpdir(), "mantle-tests-"));
  // PostgreSQL runs as another user, and has to get into its folder there.
  chmodSync(folder, 0o755);
  process.env.MANTLE_TEST_RUN = folder;
}
