/** Before the tests: a folder of this run, for what test files share. */
import { chmodSync, mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

export default function start() {
  if (process.env.MANTLE_TEST_RUN !== undefined) return;
  const folder = mkdtempSync(join(tmpdir(), "mantle-tests-"));
  // PostgreSQL runs as another user, and has to get into its folder there.
  chmodSync(folder, 0o755);
  process.env.MANTLE_TEST_RUN = folder;
}
