/**
 * Measures what a page loads for each job (min + gzip, by esbuild) and fails where that is more than was promised: `npm run check`. `docs/sizes.md` states
 * the same numbers.
 */
import { readFile } from "node:fs/promises";
import { relative } from "node:path";
import { fileURLToPath } from "node:url";
import { gzipSync } from "node:zlib";
import { build } from "esbuild";
import { builtFile, entries, nameOf } from "./entries.js";

interface Job {
  readonly name: string;
  readonly imports: string;
  /** What is loaded already, and not counted. */
  readonly besides?: string;
  /** In kB, a thousand bytes: what is promised. It is never raised to what was built. */
  readonly promise: number;
}

const jobs: readonly Job[] = [
  {
    name: "a typical game",
    imports:
      'export { createCharacter, openFigure, openFitting, openSession } from "zealous-mantle"; export { canvasPainter, fetchCatalog } from "zealous-mantle/browser"; import "zealous-mantle/elements/fitting"',
    promise: 110,
  },
  {
    name: "read + resolve + paint",
    imports: 'export { readCatalog, resolveLook, composeFrame } from "zealous-mantle"',
    promise: 36,
  },
  { name: "read + check", imports: 'export { readCatalog, checkLoadout } from "zealous-mantle"', promise: 36 },
  { name: "the main entry", imports: 'export * from "zealous-mantle"', promise: 80 },
  {
    name: "the search, on top",
    imports: 'export * from "zealous-mantle/solver"',
    besides: 'export * from "zealous-mantle"',
    promise: 26,
  },
  {
    name: "while a game is made",
    imports:
      'export { surveyRules, surveyArt, checkPresets, checkCreation, checkArt, listPaths, pointImages, extractPoints, neededTables } from "zealous-mantle/authoring"; export { bakeSheets, encodePng, encodeApng, decodePng, sheetTable } from "zealous-mantle/raster"',
    promise: 74.5,
  },
  {
    name: "bringing art in",
    imports:
      'export { contactSheet, findFigures, findRecolors, findRegions, planImport, readDrawing, readFigures, readFiles, readSheet, readTable } from "zealous-mantle/authoring"',
    promise: 40.5,
  },
  {
    name: "packs",
    imports:
      'export { mergePacks } from "zealous-mantle"; export { compareSources, excludedByPacks, mergedSources } from "zealous-mantle/authoring"',
    promise: 31.5,
  },
  {
    name: "seeing everything at once",
    imports:
      'export { compareCharacter, comparePictures, compareSources, explainLook, pairwiseCover, relationsOf, surveyCoverage } from "zealous-mantle/authoring"',
    promise: 50,
  },
  {
    name: "the atlas",
    imports: 'export { openAtlas } from "zealous-mantle/raster"',
    promise: 12,
  },
  { name: "figures in 3D", imports: 'export * from "zealous-mantle/model"', promise: 55.5 },
  { name: "one element: stage", imports: 'import "zealous-mantle/elements/stage"', promise: 20 },
  { name: "one element: fitting", imports: 'import "zealous-mantle/elements/fitting"', promise: 55 },
  { name: "all elements", imports: 'import "zealous-mantle/elements"', promise: 67 },
  { name: "English, all sentences", imports: 'export { messages } from "zealous-mantle/locales/en"', promise: 7.5 },
];

/** A job that is over its promise for now. */
interface Exception {
  readonly because: string;
  /** What ends it. */
  readonly until: string;
  /** It may not grow meanwhile. */
  readonly atMost: number;
}

const exceptions: Readonly<Record<string, Exception>> = {};

const root = fileURLToPath(new URL("..", import.meta.url));
const page = await readFile(`${root}docs/sizes.md`, "utf8");
/** Each entry point as it is built. */
const alias = Object.fromEntries(entries.map(({ entry }) => [nameOf(entry), `${root}${builtFile(entry)}`]));

/** The bytes, compressed, of all that a page loads before anything is done. What is imported when it is needed is no part of it. */
async function weightOf(imports: string): Promise<number> {
  const { outputFiles, metafile } = await build({
    stdin: { contents: imports, resolveDir: root },
    bundle: true,
    minify: true,
    write: false,
    format: "esm",
    splitting: true,
    metafile: true,
    outdir: root,
    absWorkingDir: root,
    platform: "browser",
    target: "es2022",
    // What reads models in Node is in the same file, and is not reached in a browser; JPEGs are decoded by what is loaded when one is met.
    external: ["node:*", "jpeg-js"],
    alias,
  });
  const first = Object.keys(metafile.outputs).filter((path) => metafile.outputs[path]?.entryPoint === "<stdin>");
  for (const path of first)
    for (const { kind, path: imported } of metafile.outputs[path]?.imports ?? [])
      if (kind === "import-statement" && !first.includes(imported)) first.push(imported);
  const files = new Map(outputFiles.map(({ path, contents }) => [relative(root, path), contents]));
  return first.reduce((sum, path) => sum + gzipSync(files.get(path) ?? new Uint8Array(), { level: 9 }).length, 0);
}

for (const { name, imports, besides, promise } of jobs) {
  const before = besides === undefined ? 0 : await weightOf(besides);
  const kilobytes = ((await weightOf(besides === undefined ? imports : `${besides};${imports}`)) - before) / 1000;
  const exception = exceptions[name];
  const isOver = kilobytes > promise;
  const excuse = isOver && exception !== undefined ? `; ${exception.because}, until ${exception.until}` : "";
  console.log(`${name}: ${kilobytes.toFixed(1)} kB${isOver ? `, over its promise of ${promise} kB${excuse}` : ""}`);
  if (isOver && exception === undefined) fail(`"${name}" weighs more than the ${promise} kB that were promised.`);
  if (exception !== undefined && kilobytes > exception.atMost)
    fail(`"${name}" is excused up to ${exception.atMost} kB.`);
  if (exception !== undefined && !isOver) fail(`"${name}" keeps its promise: take it from the exceptions.`);
  const [, stated] = new RegExp(`\\| ${name.replace(/[+]/g, "\\+")} +\\| +([\\d.]+) kB`).exec(page) ?? [];
  if (!(Math.abs(Number(stated) - kilobytes) < 0.5)) fail(`docs/sizes.md says ${stated ?? "nothing"} of "${name}".`);
}

function fail(because: string): void {
  console.error(because);
  process.exitCode = 1;
}
