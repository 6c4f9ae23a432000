/**
 * Checks that what the docs name in backticks is there: functions, types and keys written as one word of several, options of the command line, and
 * files of the project. Prints each that is not, with its place.
 */
import { existsSync, readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";

/** Names of engines, frameworks, formats and databases that the docs speak of. */
const foreign = new Set([
  "baseColorTexture",
  "emissiveFactor",
  "alphaCutoff",
  "intersectObject",
  "shallowRef",
  "useSyncExternalStore",
]);

const pages = ["README.md", "CONTRIBUTING.md", ...filesIn("docs", /\.md$/), ...filesIn("src", /README\.md$/)];
const folders = ["src", "examples", "scripts", "tests", "bench"];
const code = folders
  .flatMap((folder) => filesIn(folder, /\.(ts|tsx|js|jsx|vue|svelte|html|css)$/))
  .map(withoutComments);
const data = [...filesIn("schema", /\.json$/), ...filesIn("demo/saltmarsh", /\.json$/), "package.json"].map((file) =>
  readFileSync(file, "utf8"),
);
const words = new Set([...code, ...data].flatMap((text) => text.match(/[\w$]+/g) ?? []));
const options = new Set([...code, ...data].flatMap((text) => text.match(/(?<![\w-])--[a-z][\w-]*/g) ?? []));

let missing = 0;
for (const page of pages) {
  for (const [number, line] of prose(page).entries()) {
    for (const [, quoted = ""] of line.matchAll(/`([^`]+)`/g)) {
      for (const name of unknownIn(quoted)) {
        missing += 1;
        console.log(`${page}:${number + 1}: \`${quoted}\`: there is no ${name}.`);
      }
    }
  }
}
if (missing > 0) process.exitCode = 1;

/** The lines of a page, blank where they are code. */
function prose(page: string): readonly string[] {
  let isCode = false;
  return readFileSync(page, "utf8")
    .split("\n")
    .map((line) => {
      const isFence = line.trimStart().startsWith("```");
      if (isFence) isCode = !isCode;
      return isFence || isCode ? "" : line;
    });
}

function unknownIn(quoted: string): readonly string[] {
  const named = [...quoted.matchAll(/(?<![\w$-])[a-z]+(?:[A-Z][a-z0-9]*)+(?![\w$-])/g)].map(([name]) => name);
  const called = [...quoted.matchAll(/(?<![\w$.-])([a-z]\w+)\(/g)].map(([, name = ""]) => name);
  const said = quoted.match(/(?<![\w-])--[a-z][\w-]*/g) ?? [];
  const path = /^(?:src|tests|scripts|bench|examples|docs|demo|schema)\/[\w./-]+$/.exec(quoted)?.[0];
  return [
    ...[...new Set([...named, ...called])]
      .filter((name) => !words.has(name) && !foreign.has(name))
      .map((name) => `"${name}" in the code`),
    ...said.filter((option) => !options.has(option)).map((option) => `option ${option}`),
    ...(path === undefined || isThere(path) ? [] : [`file or folder ${path}`]),
  ];
}

/** Modules are named without their ending, too. */
function isThere(path: string): boolean {
  return ["", ".ts", ".js", ".test.ts"].some((ending) => existsSync(path + ending));
}

function withoutComments(file: string): string {
  return readFileSync(file, "utf8").replace(/\/\*[\s\S]*?\*\/|(?<!:)\/\/.*$/gm, "");
}

function filesIn(folder: string, named: RegExp): readonly string[] {
  return readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile() && named.test(entry.name))
    .map((entry) => join(entry.parentPath, entry.name));
}
