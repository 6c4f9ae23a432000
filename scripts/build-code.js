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

/**
 * Entries of the core whose own modules are one file each, with those before it taken out: who imports one loads few files, and each code is in one
 * place.
 */
const rooms = ["index", "solver", "raster", "judge", "sync", "model"];

/** What every bundler keeps that imports it, since the parser of XML does not say that it can be left out: so it is a file of its own. */
const drawings = /[\\/]core[\\/]art[\\/]layered[\\/]/;

/** By entry of the core: all that it imports at once, and what that imports. */
const imported = new Map();

/** Notes what the entries of the core import, before code is put into files. */
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
    for (const room of [...rooms, "authoring"]) imported.set(room, add(source(`core/${room}`), new Set()));
  },
};

const group = (name, test, priority) => ({ name, test, priority });
const groups = [
  ...rooms.map((room, at) =>
    group(room === "index" ? "core" : `core-${room}`, (id) => imported.get(room).has(id), rooms.length + 2 - at),
  ),
  group("core-drawings", drawings, 2),
  group("core-authoring", (id) => imported.get("authoring").has(id), 1),
];

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
