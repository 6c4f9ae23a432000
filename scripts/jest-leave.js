/** After the browser tests: stops serving the examples. */
import { existsSync, readFileSync, rmSync } from "node:fs";
import { dirname } from "node:path";

export default function leave() {
  globalThis.examplesServer?.removeAllListeners("exit");
  globalThis.examplesServer?.kill();
  const file = process.env.EXAMPLES_ADDRESSES;
  if (file === undefined) return;
  const { tarball } = existsSync(file) ? JSON.parse(readFileSync(file, "utf8")) : {};
  for (const each of [file, tarball]) if (each !== undefined) rmSync(dirname(each), { recursive: true, force: true });
}
