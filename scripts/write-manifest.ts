/**
 * Writes `custom-elements.json`, the manifest that editors and frameworks know the elements by: what the analyzer finds in their sources,
 * without what is theirs alone, and with the parts and the properties of style that can be used from outside. With `--check`, compares.
 */
import { spawnSync } from "node:child_process";
import { readFile, writeFile } from "node:fs/promises";
import { fileURLToPath } from "node:url";
import { builtFile, entries } from "./entries.js";

/** What is used of a manifest (Custom Elements Manifest, schema 2). */
interface Declaration {
  readonly name: string;
  readonly tagName?: string;
  members?: readonly {
    readonly kind: string;
    readonly name: string;
    readonly privacy?: string;
    readonly static?: boolean;
    readonly inheritedFrom?: object;
    readonly description?: string;
  }[];
  attributes?: readonly { readonly name: string; readonly fieldName?: string }[];
  events?: readonly { readonly name?: string }[];
  cssParts?: readonly { readonly name: string }[];
  cssProperties?: readonly { readonly name: string; readonly default: string }[];
}

interface Manifest {
  readonly modules: readonly { readonly path: string; readonly declarations: readonly Declaration[] }[];
}

const at = (name: string) => fileURLToPath(new URL(`../${name}`, import.meta.url));
const name = "custom-elements.json";
const call = ["analyze", "--quiet", "--config", "scripts/manifest-config.js"];
const { status, stderr } = spawnSync(at("node_modules/.bin/cem"), call, { cwd: at("."), encoding: "utf8" });
if (status !== 0) throw new Error(`The elements cannot be analyzed: ${stderr}`);
const found: Manifest = JSON.parse(await readFile(at("out/manifest/custom-elements.json"), "utf8"));
const theme = await readFile(at("src/elements/theme.ts"), "utf8");
const themed = [...theme.matchAll(/var\((--mantle-[a-z-]+), ([^;]+)\);/g)];

/** The entry that an element is imported by. */
const entryOf = (path: string) =>
  entries.find(({ entry, source }) => entry !== "./elements" && path === `src/${source}.ts`)?.entry ?? "./elements";

const elements: object[] = [];
for (const { path, declarations } of [...found.modules].sort((one, other) => one.path.localeCompare(other.path))) {
  const text = await readFile(at(path), "utf8");
  const own = declarations.filter(({ tagName }) => tagName !== undefined).map((each) => publicOf(each, text));
  if (own.length === 0) continue;
  elements.push({
    kind: "javascript-module",
    path: builtFile(entryOf(path)),
    declarations: own,
  });
}
const written = `${JSON.stringify({ schemaVersion: "2.1.0", readme: "docs/screens.md", modules: elements }, null, 2)}\n`;

if (!process.argv.includes("--check")) {
  await writeFile(at(name), written);
  console.log(`Written: ${name}`);
} else if ((await readFile(at(name), "utf8").catch(() => "")) !== written) {
  console.error(`${name} is not what the elements are. Run npm run manifest.`);
  process.exitCode = 1;
}

/** An element without what is its own alone. */
function publicOf(declaration: Declaration, text: string): Declaration {
  const { members = [], attributes = [], events = [] } = declaration;
  const open = members.filter(
    ({ kind, privacy = "public", static: isStatic = false, inheritedFrom, description }) =>
      privacy === "public" &&
      !isStatic &&
      (kind === "field" || (description !== undefined && inheritedFrom === undefined)),
  );
  const fields = new Set(open.map((each) => each.name));
  const parts = new Set([...text.matchAll(/ part="([a-z]+)"/g)].map(([, part = ""]) => part));
  return {
    ...declaration,
    members: open,
    attributes: attributes.filter((each) => fields.has(each.fieldName ?? each.name)),
    events: events.filter((each) => each.name?.startsWith("mantle-")),
    cssParts: [...parts].sort().map((part) => ({ name: part })),
    cssProperties: themed.map(([, property = "", value = ""]) => ({ name: property, default: value.trim() })),
  };
}
