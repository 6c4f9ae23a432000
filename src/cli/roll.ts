import { join } from "node:path";
import type { Command } from "commander";
import type { Catalog } from "../core/catalog/catalog.ts";
import { textIn } from "../core/catalog/text.ts";
import type { Character } from "../core/character/character.ts";
import { wornParts } from "../core/character/worn.ts";
import { rollCharacter } from "../core/loadout/roll-character.ts";
import { loadCatalog } from "../node/load-catalog.ts";
import { positiveNumber, wholeNumber } from "./numbers.ts";
import { type Answer, printAnswer } from "./output.ts";
import { writeOutput } from "./write-output.ts";

interface Options {
  readonly seed: number;
  readonly count: number;
  readonly body?: string;
  readonly out?: string;
  readonly json?: boolean;
}

/** `mantle roll`: valid characters at random. */
export function addRoll(program: Command): void {
  program
    .command("roll")
    .description("Make valid characters at random; the same seed always makes the same ones.")
    .argument("<catalog>", "folder with catalog.json")
    .option("--seed <number>", "a whole number", wholeNumber, 1)
    .option("--count <number>", "how many", positiveNumber, 1)
    .option("--body <id>", "use this body")
    .option("--out <folder>", "write each character to a file in this folder")
    .option("--json", "print data for programs")
    .addHelpText(
      "after",
      "\nExample:\n  $ mantle roll demo/saltmarsh --seed 7 --count 3 --out out/rolled\n  Three files, out/rolled/rolled-7.json to rolled-9.json, ready for mantle draw.",
    )
    .action(async (folder: string, options: Options) => printAnswer(await roll(folder, options), options));
}

async function roll(folder: string, { seed, count, body, out }: Options): Promise<Answer> {
  const catalog = await loadCatalog(folder);
  const characters = Array.from({ length: count }, (_, number) =>
    rollCharacter(catalog, { seed: seed + number, ...(body === undefined ? {} : { body }) }),
  );
  const files: string[] = [];
  if (out !== undefined) {
    for (const character of characters) {
      const file = join(out, `${character.id}.json`);
      await writeOutput(file, `${JSON.stringify(character, null, 2)}\n`);
      files.push(file);
    }
  }
  const text = characters.map((character) => describe(catalog, character));
  return { text: [...text, ...files.map((file) => `Written: ${file}`)].join("\n"), data: { characters, files } };
}

function describe(catalog: Catalog, character: Character): string {
  const worn = wornParts(catalog, character).map(({ part }) => textIn(part.title).toLowerCase());
  return `${character.id}: ${textIn(catalog.bodies.get(character.body)?.title ?? character.body)}, ${worn.join(", ")}`;
}
