/** Everything that can be judged without running the library: types, lint, floors, dead code, the schema file. */
import { spawnSync } from "node:child_process";

const checks: readonly (readonly [string, readonly string[]])[] = [
  ["types", ["tsc", "-p", "tsconfig.json"]],
  ["core without DOM and Node", ["tsc", "-p", "tsconfig.core.json"]],
  ["lint", ["biome", "check", "--error-on-warnings"]],
  ["floors", ["depcruise", "src", "--config", ".dependency-cruiser.js"]],
  ["dead code", ["knip"]],
  ["schema file", ["tsx", "scripts/write-schema.ts", "--check"]],
];

let failed = 0;
for (const [name, [command = "", ...args]] of checks) {
  const started = performance.now();
  const { status, stdout, stderr, error } = spawnSync(`node_modules/.bin/${command}`, args, { encoding: "utf8" });
  const ok = status === 0;
  if (!ok) failed += 1;
  console.log(`${ok ? "ok    " : "FAILED"}  ${name}  (${((performance.now() - started) / 1000).toFixed(1)} s)`);
  if (!ok) console.log([stdout, stderr, error?.message].filter(Boolean).join("\n"));
}
process.exitCode = failed === 0 ? 0 : 1;
