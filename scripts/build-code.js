/**
 * Builds the code of the package into `dist/js`: a file for each entry and program, and few that several of them share, with maps that lead to the
 * sources. Types are what `npm run build` adds.
 */
import { rm } from "node:fs/promises";
import { relative } from "node:path";
import { fileURLToPath } from "node:url";
import { rolldown } from "rolldown";
import { builtFile, entries } from "./entries.js";
import { marksPure } from "./mark-pure.js";
import { shortensTemplates } from "./shorten-templates.js";

const folder = "dist/js";
const source = (path) => fileURLToPath(new URL(`../src/${path}.ts`, import.meta.url));

/** What is started by itself, not imported: the command line, and what runs in threads. `run` is the command line for a program, as tests start it. */
const programs = { mantle: "cli/main", run: "cli/run", "survey-worker": "node/survey-worker" };

/** Files that several entries share: each holds what its entry imports at once, of the sources it names, and what no file before it holds. */
const shared = [
  // The command line starts with these alone.
  { name: "core-errors", entry: "cli/run", of: /[\\/]src[\\/]core[\\/]/ },
  { name: "core", entry: "core/index" },
  // What reads a catalog from files: in a page, without what is for its makers.
  { name: "core-files", entry: "browser/index", of: /[\\/]src[\\/]core[\\/]/ },
  { name: "page", entry: "elements/index", of: /[\\/]src[\\/]browser[\\/]/ },
  { name: "core-solver", entry: "core/solver" },
  { name: "core-raster", entry: "core/raster" },
  { name: "core-judge", entry: "core/judge" },
  { name: "core-sync", entry: "core/sync" },
  { name: "core-model", entry: "core/model" },
  // By themselves, since bundlers keep the parser of XML wherever it is imported: it does not say that it can be left out.
  { name: "core-drawings", entry: "core/authoring", of: /[\\/]core[\\/]art[\\/]layered[\\/]/ },
  { name: "core-authoring", entry: "core/authoring" },
];

/** By entry: all that it imports at once, and what that imports. */
const imported = new Map();

/** Notes what entries import, before code is put into files. */
const notesImports = {
  name: "notes-imports",
  buildEnd() {
    const add = (id, found) => {
      const info = found.has(id) ? null : this.getModuleInfo(id);
      if (info === null || info.isExternal) return found;
      found.add(id);
      for (const next of info.importedIds) add(next, found);
      return found;
    };
    for (const { entry } of shared) if (!imported.has(entry)) imported.set(entry, add(source(entry), new Set()));
  },
};

const groups = shared.map(({ name, entry, of = /./ }, at) => ({
  name,
  test: (id) => of.test(id) && imported.get(entry).has(id),
  priority: shared.length - at,
}));

const input = {
  ...Object.fromEntries(
    entries.map(({ entry, source: path }) => [relative(folder, builtFile(entry)).replace(/\.js$/, ""), source(path)]),
  ),
  ...Object.fromEntries(Object.entries(programs).map(([name, path]) => [name, source(path)])),
};

await rm(folder, { recursive: true, force: true });
const bundle = await rolldown({
  input,
  platform: "neutral",
  // Packages are imported by whoever uses this one.
  external: /^[^./]/,
  tsconfig: false,
  transform: { target: "es2023", typescript: { onlyRemoveTypeImports: false } },
  plugins: [marksPure, shortensTemplates, notesImports],
});
await bundle.write({
  dir: folder,
  format: "esm",
  sourcemap: true,
  sourcemapExcludeSources: true,
  minifyInternalExports: false,
  // Elements define themselves when they are loaded, which `sideEffects` of the package says by their folder.
  chunkFileNames: ({ moduleIds }) =>
    moduleIds.some((id) => /[\\/]src[\\/]elements[\\/]/.test(id)) ? "elements/[name].js" : "[name].js",
  codeSplitting: { groups },
});
await bundle.close();
