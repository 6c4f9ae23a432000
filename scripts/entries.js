// The entry points of the package, from which its `exports`, the paths of the compiler, Jest, TypeDoc and the bundlers have them.
import { readFileSync } from "node:fs";
import { fileURLToPath } from "node:url";

/** @type {readonly { entry: string, source: string, holds: string }[]} */
export const entries = JSON.parse(readFileSync(new URL("./entries.json", import.meta.url), "utf8"));

/** The name by which an entry is imported. @param {string} entry */
export function nameOf(entry) {
  return `zealous-mantle${entry.slice(1)}`;
}

/** The file of an entry's code that is built, from the folder of the project. @param {string} entry */
export function builtFile(entry) {
  return `dist/js/${entry === "." ? "index" : entry.slice(2)}.js`;
}

/** The file of an entry's types that is built. @param {string} entry */
export function typesFile(entry) {
  return builtFile(entry).replace("/js/", "/types/").replace(/\.js$/, ".d.ts");
}

/** For Vite: each entry at its source. */
export const aliases = entries.map(({ entry, source }) => ({
  find: new RegExp(`^${nameOf(entry)}$`),
  replacement: fileURLToPath(new URL(`../src/${source}.ts`, import.meta.url)),
}));
