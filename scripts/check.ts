/** Everything that can be judged without a browser: types, lint, floors, dead code, the schema file, sizes, the package. */
import { spawnSync } from "node:child_process";

const checks: readonly (readonly [string, readonly string[]])[] = [
  ["types", ["node", "node_modules/typescript/bin/tsc", "-p", "tsconfig.json"]],
  ["core without DOM and Node", ["node", "node_modules/typescript/bin/tsc", "-p", "tsconfig.core.json"]],
  ["lint", ["biome", "check", "--error-on-warnings"]],
  ["floors", ["depcruise", "src", "--config", ".dependency-cruiser.js"]],
  ["dead code", ["knip"]],
  ["schema file", ["tsx", "scripts/write-schema.ts", "--check"]],
  ["sizes", ["tsx", "scripts/sizes.ts"]],
  ["package", ["tsx", "scripts/check-package.ts"]],
];

let failed = 0;
for (const [name, [command = "", ...args]] of checks) {
  const started = performance.now();
  const program = command === "node" ? process.execPath : `node_modules/.bin/${command}`;
  const { status, stdout, stderr, error } = spawnSync(program, args, { encoding: "utf8" });
  const ok = status === 0;
  if (!ok) failed += 1;
  console.log(`${ok ? "ok    " : "FAILED"}  ${name}  (${((performance.now() - started) / 1000).toFixed(1)} s)`);
  if (ok && name === "sizes") console.log(stdout.trimEnd().replace(/^/gm, "        "));
  if (!ok) console.log([stdout, stderr, error?.message].filter(Boolean).join("\n"));
}
process.exitCode = failed === 0 ? 0 : 1;
