/**
 * Completes `package-lock.json` after `npm install` against a registry that serves only this platform's binaries: optional
 * packages for other platforms are left out of the lock then, and `npm ci` refuses it. Run it after every `npm install`.
 */
import { readFile, writeFile } from "node:fs/promises";

interface Entry {
  readonly version?: string;
  readonly optional?: boolean;
  readonly dev?: boolean;
  readonly optionalDependencies?: Readonly<Record<string, string>>;
  readonly os?: readonly string[];
  readonly cpu?: readonly string[];
}

const lock: { packages: Record<string, Entry> } = JSON.parse(await readFile("package-lock.json", "utf8"));
const systems = ["aix", "android", "darwin", "freebsd", "linux", "netbsd", "openbsd", "openharmony", "sunos", "win32"];
const processors = ["arm64", "arm", "ia32", "loong64", "mips64el", "ppc64", "riscv64", "s390x", "x64", "wasm32"];
let added = 0;

for (const [owner, entry] of Object.entries(lock.packages)) {
  for (const [name, version] of Object.entries(entry.optionalDependencies ?? {})) {
    const place = `node_modules/${name}`;
    if (lock.packages[place] !== undefined || lock.packages[`${owner}/${place}`] !== undefined) continue;
    const words = name.split(/[-/]/);
    const os = systems.filter((system) => words.includes(system));
    const cpu = processors.filter((processor) =>
      words.some((word) => word === processor || (processor === "arm" && word === "arm")),
    );
    if (os.length === 0 && cpu.length === 0) {
      console.error(`${name}: its platform cannot be read from its name.`);
      process.exitCode = 1;
      continue;
    }
    lock.packages[place] = {
      version: version.replace(/^[\^~]/, ""),
      ...(entry.dev ? { dev: true } : {}),
      optional: true,
      ...(os.length > 0 ? { os } : {}),
      ...(cpu.length > 0 ? { cpu } : {}),
    };
    added += 1;
  }
}

const root = lock.packages[""];
const sorted = Object.entries(lock.packages)
  .filter(([place]) => place !== "")
  .sort(([one], [other]) => (one < other ? -1 : 1));
lock.packages = Object.fromEntries(root === undefined ? sorted : [["", root], ...sorted]);
await writeFile("package-lock.json", `${JSON.stringify(lock, null, 2)}\n`);
console.log(`${added} optional packages of other platforms added to package-lock.json`);
