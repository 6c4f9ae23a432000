/**
 * Everything that can be judged without a browser: types, lint, floors, dead code, names in the docs, the schema file, sizes, the package. With
 * `--whole` the package is compiled by older compilers and in every resolution, too, and every pixel of the demo is looked at.
 */
import { spawn } from "node:child_process";

interface Check {
  readonly name: string;
  readonly command: readonly string[];
  /** Whether what it prints is shown when all is well, too. */
  readonly isTold?: boolean;
}

/** The compiler in machine code: it takes a tenth of the time. What other compilers make of the package is asked in a CI run. */
const tsc = ["node", "node_modules/typescript-native/bin/tsc"];
const isWhole = process.argv.includes("--whole");

/** The longest first, since two run at a time. */
const checks: readonly Check[] = [
  { name: "package", command: ["tsx", "scripts/check-package.ts", ...(isWhole ? ["--whole"] : [])] },
  { name: "types", command: [...tsc, "-p", "tsconfig.json"] },
  { name: "core without DOM and Node", command: [...tsc, "-p", "tsconfig.core.json"] },
  { name: "lint", command: ["biome", "check", "--error-on-warnings"] },
  { name: "floors", command: ["depcruise", "src", "--config", ".dependency-cruiser.js"] },
  { name: "dead code", command: ["knip"] },
  { name: "tables", command: ["tsx", "scripts/write-tables.ts", "--check"] },
  { name: "manifest", command: ["tsx", "scripts/write-manifest.ts", "--check"] },
  { name: "names in the docs", command: ["tsx", "scripts/check-names.ts"] },
  { name: "schema file", command: ["tsx", "scripts/write-schema.ts", "--check"] },
  { name: "sizes", command: ["tsx", "scripts/sizes.ts"], isTold: true },
];

await judge({ name: "build", command: ["npm", "run", "build", "--silent"] });
const waiting = [...checks];
const next = async (): Promise<void> => {
  for (let check = waiting.shift(); check !== undefined; check = waiting.shift()) await judge(check);
};
await Promise.all([next(), next()]);

async function judge({ name, command: [command = "", ...args], isTold = false }: Check): Promise<void> {
  const started = performance.now();
  const { status, printed } = await run(programOf(command), args);
  const ok = status === 0;
  if (!ok) process.exitCode = 1;
  console.log(`${ok ? "ok    " : "FAILED"}  ${name}  (${((performance.now() - started) / 1000).toFixed(1)} s)`);
  if (!ok || isTold) console.log(printed.trimEnd().replace(/^/gm, "        "));
}

function programOf(command: string): string {
  if (command === "npm") return command;
  return command === "node" ? process.execPath : `node_modules/.bin/${command}`;
}

function run(program: string, args: readonly string[]): Promise<{ status: number; printed: string }> {
  return new Promise((done) => {
    const child = spawn(program, args, { stdio: ["ignore", "pipe", "pipe"] });
    let printed = "";
    for (const stream of [child.stdout, child.stderr]) stream.on("data", (chunk) => (printed += String(chunk)));
    child.on("error", (error) => done({ status: 1, printed: error.message }));
    child.on("close", (status) => done({ status: status ?? 1, printed }));
  });
}
