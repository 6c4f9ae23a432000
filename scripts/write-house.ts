/** Writes the README's table of the rooms from `house.json`, which the dependency rules come from too. With `--check`, compares. */
import { readFile, writeFile } from "node:fs/promises";
import { fileURLToPath } from "node:url";

interface Room {
  readonly room: string;
  readonly holds: string;
}

const at = (name: string) => fileURLToPath(new URL(`../${name}`, import.meta.url));
const floors: readonly (readonly Room[])[] = JSON.parse(await readFile(at("scripts/house.json"), "utf8"));
const readme = await readFile(at("README.md"), "utf8");
const written = readme.replace(/(<!-- rooms -->\n)[\s\S]*?(<!-- \/rooms -->)/, `$1\n${table(floors.flat())}\n$2`);
if (!readme.includes("<!-- rooms -->")) throw new Error("README.md has no place for the table of rooms.");
if (!process.argv.includes("--check")) await writeFile(at("README.md"), written);
else if (written !== readme) {
  console.error("The README's table of rooms is not what scripts/house.json says. Run npm run house.");
  process.exitCode = 1;
}

function table(rooms: readonly Room[]): string {
  const rows = [["room", "what is in it"], ...rooms.map(({ room, holds }) => [`\`src/${room}\``, holds])];
  const widths = [0, 1].map((column) => Math.max(...rows.map((row) => row[column]?.length ?? 0)));
  const line = (row: readonly string[]) => `| ${row.map((cell, at) => cell.padEnd(widths[at] ?? 0)).join(" | ")} |`;
  const rule = line(widths.map((width) => "-".repeat(width)));
  const [head = [], ...body] = rows;
  return `${[line(head), rule, ...body.map(line)].join("\n")}\n`;
}
