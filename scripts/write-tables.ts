/**
 * Writes the tables of the documentation that the code knows better: the rooms of `house.json`, which the dependency rules come from too,
 * the entry points, and the codes of messages; the entry points into `package.json` and `tsconfig.json`; and into each folder of the sources what
 * lives there and what it may import. With `--check`, compares.
 */
import { readdir, readFile, writeFile } from "node:fs/promises";
import { fileURLToPath } from "node:url";
import * as art from "../src/core/base/messages/english-art-sentences.ts";
import * as documents from "../src/core/base/messages/english-documents.ts";
import * as loadouts from "../src/core/base/messages/english-loadouts.ts";

import { elementTables, optionsOf } from "./api-tables.ts";
import { builtFile, entries, nameOf, typesFile } from "./entries.js";

type Row = readonly string[];

const at = (name: string) => fileURLToPath(new URL(`../${name}`, import.meta.url));

interface Room {
  readonly room: string;
  readonly holds: string;
  /** What lives in the folders within it. */
  readonly within?: Readonly<Record<string, string>>;
}

const house: readonly (readonly Room[])[] = JSON.parse(await readFile(at("scripts/house.json"), "utf8"));

const languages = entries
  .map(({ entry }) => /^\.\/locales\/(\w+)$/.exec(entry)?.[1])
  .filter((tag) => tag !== undefined);

/** By file and by the name between whose marks it stands. */
const tables: Readonly<Record<string, Readonly<Record<string, readonly Row[]>>>> = {
  "README.md": {
    entries: [
      ["entry", "what is in it"],
      ...entries
        .filter(({ entry }) => !entry.startsWith("./elements/") && !entry.startsWith("./locales/"))
        .map(({ entry, holds }) => [`\`${nameOf(entry)}\``, holds]),
      [
        languages.map((tag) => `\`zealous-mantle/locales/${tag}\``).join(" "),
        "languages: texts of the screens, sentences of findings",
      ],
    ],
  },
  "CONTRIBUTING.md": {
    rooms: [["room", "what is in it"], ...house.flat().map(({ room, holds }) => [`\`src/${room}\``, holds])],
  },
  "docs/options.md": {
    context: optionsOf("src/core/character/context.ts", "Context"),
    solving: optionsOf("src/core/loadout/solver.ts", "SolvingContext"),
    session: optionsOf("src/core/play/session.ts", "SessionOptions"),
    fitting: optionsOf("src/core/create/fitting.ts", "FittingOptions"),
    steps: optionsOf("src/core/create/steps.ts", "StepsOptions"),
    ...Object.fromEntries(elementTables()),
  },
  "docs/codes.md": {
    problems: codes({ ...loadouts.problems, ...documents.problems, ...art.problems }),
    fixes: codes({ ...loadouts.fixes, ...documents.fixes, ...art.fixes }),
    phrases: codes({ ...loadouts.phrases, ...documents.phrases }),
  },
};

const packageText = await readFile(at("package.json"), "utf8");
const packageJson = JSON.parse(packageText);
const files = Object.entries<unknown>(packageJson.exports).filter(([, entry]) => typeof entry === "string");
const built = entries.map(({ entry }) => [entry, { types: `./${typesFile(entry)}`, default: `./${builtFile(entry)}` }]);
packageJson.exports = Object.fromEntries([...built, ...files]);
await keep("package.json", packageText, `${JSON.stringify(packageJson, undefined, 2)}\n`);
const configText = await readFile(at("tsconfig.json"), "utf8");
const config = JSON.parse(configText);
config.compilerOptions.paths = Object.fromEntries(
  entries.map(({ entry, source }) => [nameOf(entry), [`./src/${source}.ts`]]),
);
await keep("tsconfig.json", configText, laidOut(config));

for (const [file, wanted] of Object.entries(tables)) {
  const text = await readFile(at(file), "utf8");
  let written = text;
  for (const [name, rows] of Object.entries(wanted)) {
    const place = new RegExp(`(<!-- ${name} -->\\n)[\\s\\S]*?(<!-- /${name} -->)`);
    if (!place.test(text)) throw new Error(`${file} has no place for the table "${name}".`);
    written = written.replace(place, (_, open, close) => `${open}\n${tableOf(rows)}\n${close}`);
  }
  await keep(file, text, written);
}

const folders = new Map(
  house.flatMap((rooms, floor) =>
    rooms.flatMap(({ room, holds, within = {} }) => [
      [room, signOf(room, holds, floor)] as const,
      ...Object.entries(within).map(([name, what]) => [`${room}/${name}`, signOf(room, what, floor)] as const),
    ]),
  ),
);
for (const [folder, sign] of folders) {
  const file = `src/${folder}/README.md`;
  await keep(file, await readFile(at(file), "utf8").catch(() => ""), sign);
}
for (const entry of await readdir(at("src"), { withFileTypes: true, recursive: true })) {
  const folder = `${entry.parentPath}/${entry.name}`.slice(at("src/").length).replaceAll("\\", "/");
  if (!entry.isDirectory() || folder === "core" || folders.has(folder)) continue;
  console.error(`src/${folder} is not in scripts/house.json. Write there what lives in it.`);
  process.exitCode = 1;
}

/** What lives in a folder, and what it may import. */
function signOf(room: string, holds: string, floor: number): string {
  const below = house.slice(0, floor).flat();
  const rooms = [`\`${room}\``, ...below.map((each) => `\`${each.room}\``)];
  const imports = below.length === 0 ? "nothing of ours outside it" : new Intl.ListFormat("en").format(rooms);
  return `${holds.charAt(0).toUpperCase()}${holds.slice(1)}.\n\nMay import ${imports}.\n`;
}

/** JSON as the formatter of the project has it: short lists on one line. */
function laidOut(value: unknown): string {
  const lists = /\[\s+("[^\]]*")\s+\]/g;
  const text = JSON.stringify(value, undefined, 2).replace(
    lists,
    (_, items) => `[${items.replaceAll(/\s*\n\s*/g, " ")}]`,
  );
  return `${text}\n`;
}

async function keep(file: string, text: string, written: string): Promise<void> {
  if (!process.argv.includes("--check")) await writeFile(at(file), written);
  else if (written !== text) {
    console.error(`${file} is not what the code says. Run npm run tables.`);
    process.exitCode = 1;
  }
}

function codes(sentences: Readonly<Record<string, string>>): readonly Row[] {
  return [["code", "text"], ...Object.entries(sentences).map(([code, text]) => [`\`${code}\``, inPlural(text)])];
}

/** A sentence with the words for several, where it has others for one. */
function inPlural(text: string): string {
  return text.replaceAll(/\{\w+:one=[^;}]*;other=([^}]*)\}/g, "$1");
}

function tableOf(rows: readonly Row[]): string {
  const widths = (rows[0] ?? []).map((_, column) => Math.max(...rows.map((row) => row[column]?.length ?? 0)));
  const line = (row: Row) => `| ${row.map((cell, column) => cell.padEnd(widths[column] ?? 0)).join(" | ")} |`;
  const [head = [], ...body] = rows;
  return `${[line(head), line(widths.map((width) => "-".repeat(width))), ...body.map(line)].join("\n")}\n`;
}
