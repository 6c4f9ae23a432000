/** After the browser tests: stops serving the examples, and what all tests share. */
import { existsSync, readFileSync, rmSync } from "node:fs";
import { dirname, join } from "node:path";
import stop from "./jest-stop.js";

export default function stopServing() {
  globalThis.examplesServer?.removeAllListeners("exit");
  globalThis.examplesServer?.kill();
  const file = join(process.env.MANTLE_TEST_RUN ?? "", "addresses.json");
  const { tarball } = existsSync(file) ? JSON.parse(readFileSync(file, "utf8")) : {};
  if (tarball !== undefined) rmSync(dirname(tarball), { recursive: true, force: true });
  stop();
}
