/** After the browser tests: stops serving the examples. */
import { rmSync } from "node:fs";
import { dirname } from "node:path";

export default function leave() {
  globalThis.examplesServer?.removeAllListeners("exit");
  globalThis.examplesServer?.kill();
  const file = process.env.EXAMPLES_ADDRESSES;
  if (file !== undefined) rmSync(dirname(file), { recursive: true, force: true });
}
