/**
 * Measures what a page loads for each job (min + gzip, by esbuild) and fails over a ceiling: `npm run check`. The README states
 * the same numbers.
 */
import { readFile } from "node:fs/promises";
import { fileURLToPath } from "node:url";
import { gzipSync } from "node:zlib";
import { build } from "esbuild";

interface Job {
  readonly name: string;
  readonly imports: string;
  /** In kB, a thousand bytes: what it may weigh now. */
  readonly ceiling: number;
  /** What it is meant to weigh. */
  readonly goal: number;
}

const jobs: readonly Job[] = [
  {
    name: "read + resolve + paint",
    imports: 'export { readCatalog, resolveLook, composeFrame } from "zealous-mantle"',
    ceiling: 35,
    goal: 36,
  },
  {
    name: "rules alone",
    imports: 'export { readCatalog, checkLoadout, repairLoadout } from "zealous-mantle"',
    ceiling: 52.5,
    goal: 52.5,
  },
  { name: "the whole core", imports: 'export * from "zealous-mantle"', ceiling: 94, goal: 94 },
  {
    name: "while a game is made",
    imports: 'export * from "zealous-mantle/authoring"',
    ceiling: 74.5,
    goal: 74.5,
  },
  {
    name: "bringing art in",
    imports: 'export * from "zealous-mantle/import"',
    ceiling: 40.5,
    goal: 40.5,
  },
  { name: "packs", imports: 'export * from "zealous-mantle/packs"', ceiling: 31.5, goal: 31.5 },
  { name: "seeing everything at once", imports: 'export * from "zealous-mantle/survey"', ceiling: 50, goal: 50 },
  { name: "the atlas", imports: 'export * from "zealous-mantle/atlas"', ceiling: 12, goal: 12 },
  { name: "figures in 3D", imports: 'export * from "zealous-mantle/model"', ceiling: 55.5, goal: 55.5 },
  { name: "one element: stage", imports: 'import "zealous-mantle/elements/stage"', ceiling: 20, goal: 20 },
  { name: "one element: fitting", imports: 'import "zealous-mantle/elements/fitting"', ceiling: 55, goal: 55 },
  { name: "all elements", imports: 'import "zealous-mantle/elements"', ceiling: 67, goal: 67 },
  {
    name: "English, all sentences",
    imports: 'export { english } from "zealous-mantle/english"',
    ceiling: 7.5,
    goal: 7.5,
  },
];

const root = fileURLToPath(new URL("..", import.meta.url));
const { exports } = JSON.parse(await readFile(`${root}package.json`, "utf8"));
const readme = await readFile(`${root}README.md`, "utf8");
/** Each entry point at its source, so that nothing has to be built before. */
const alias = Object.fromEntries(
  Object.entries<string | { default: string }>(exports).flatMap(([key, entry]) =>
    typeof entry === "string"
      ? []
      : [[`zealous-mantle${key.slice(1)}`, entry.default.replace("./dist", `${root}src`).replace(/\.js$/, ".ts")]],
  ),
);

for (const { name, imports, ceiling, goal } of jobs) {
  const { outputFiles } = await build({
    stdin: { contents: imports, resolveDir: root },
    bundle: true,
    minify: true,
    write: false,
    format: "esm",
    platform: "browser",
    target: "es2022",
    // What reads models in Node is in the same file, and is not reached in a browser; JPEGs are decoded by what is loaded when one is met.
    external: ["node:*", "jpeg-js"],
    alias,
  });
  const kilobytes = gzipSync(outputFiles[0]?.contents ?? new Uint8Array(), { level: 9 }).length / 1000;
  const said = `${name}: ${kilobytes.toFixed(1)} kB`;
  const ahead = kilobytes > goal ? `, meant to be ${goal} kB` : "";
  console.log(`${said}${ahead}`);
  if (kilobytes > ceiling) fail(`${name} weighs more than ${ceiling} kB.`);
  const [, stated] = new RegExp(`\\| ${name.replace(/[+]/g, "\\+")} +\\| +([\\d.]+) kB`).exec(readme) ?? [];
  if (!(Math.abs(Number(stated) - kilobytes) < 0.5)) fail(`The README says ${stated ?? "nothing"} of "${name}".`);
}

function fail(because: string): void {
  console.error(because);
  process.exitCode = 1;
}
