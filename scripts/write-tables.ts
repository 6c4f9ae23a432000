/**
 * Writes the tables of the documentation that the code knows better: the rooms of `house.json`, which the dependency rules come from too,
 * and the codes of messages. With `--check`, compares.
 */
import { readFile, writeFile } from "node:fs/promises";
import { fileURLToPath } from "node:url";
import * as documents from "../src/core/base/messages/english-documents.ts";
import * as loadouts from "../src/core/base/messages/english-loadouts.ts";

type Row = readonly string[];

const at = (name: string) => fileURLToPath(new URL(`../${name}`, import.meta.url));
const house: readonly (readonly { readonly room: string; readonly holds: string }[])[] = JSON.parse(
  await readFile(at("scripts/house.json"), "utf8"),
);

/** By file and by the name between whose marks it stands. */
const tables: Readonly<Record<string, Readonly<Record<string, readonly Row[]>>>> = {
  "README.md": {
    rooms: [["room", "what is in it"], ...house.flat().map(({ room, holds }) => [`\`src/${room}\``, holds])],
  },
  "docs/codes.md": {
    problems: codes({ ...loadouts.problems, ...documents.problems }),
    fixes: codes({ ...loadouts.fixes, ...documents.fixes }),
    phrases: codes({ ...loadouts.phrases, ...documents.phrases }),
  },
};

for (const [file, wanted] of Object.entries(tables)) {
  const text = await readFile(at(file), "utf8");
  let written = text;
  for (const [name, rows] of Object.entries(wanted)) {
    const place = new RegExp(`(<!-- ${name} -->\\n)[\\s\\S]*?(<!-- /${name} -->)`);
    if (!place.test(text)) throw new Error(`${file} has no place for the table "${name}".`);
    written = written.replace(place, (_, open, close) => `${open}\n${tableOf(rows)}\n${close}`);
  }
  if (!process.argv.includes("--check")) await writeFile(at(file), written);
  else if (written !== text) {
    console.error(`${file} does not have the tables that the code has. Run npm run tables.`);
    process.exitCode = 1;
  }
}

function codes(sentences: Readonly<Record<string, string>>): readonly Row[] {
  return [["code", "text"], ...Object.entries(sentences).map(([code, text]) => [`\`${code}\``, text])];
}

function tableOf(rows: readonly Row[]): string {
  const widths = [0, 1].map((column) => Math.max(...rows.map((row) => row[column]?.length ?? 0)));
  const line = (row: Row) => `| ${row.map((cell, column) => cell.padEnd(widths[column] ?? 0)).join(" | ")} |`;
  const [head = [], ...body] = rows;
  return `${[line(head), line(widths.map((width) => "-".repeat(width))), ...body.map(line)].join("\n")}\n`;
}
