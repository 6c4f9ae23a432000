import { join } from "node:path";
import type { Command } from "commander";
import { bakeSheet } from "../core/raster/bake-sheet.ts";
import { encodePng } from "../core/raster/png.ts";
import { loadDrawnCharacter } from "./drawn-character.ts";
import { type Answer, counted, printAnswer } from "./output.ts";
import { writeOutput } from "./write-output.ts";

interface Options {
  readonly out: string;
  readonly animations?: readonly string[];
  readonly facings?: readonly string[];
  readonly json?: boolean;
}

/** `mantle bake`: whole frames of a character in one sheet, and the table that says what is where. */
export function addBake(program: Command): void {
  program
    .command("bake")
    .description("Bake a character into one sheet of whole frames, with a JSON table of what is where.")
    .argument("<catalog>", "folder with catalog.json")
    .argument("<character>", "file of the character, or of its save")
    .requiredOption("--out <folder>", "where to write the sheet and its table")
    .option("--animations <ids...>", "which animations; all when left out")
    .option("--facings <ids...>", "which facings; all when left out")
    .option("--json", "print data for programs")
    .addHelpText(
      "after",
      "\nExample:\n  $ mantle bake demo/saltmarsh out/rolled/rolled-7.json --animations walk --out out/baked\n  Written: out/baked/rolled-7.png, 512×320 pixels, 32 frames\n  Written: out/baked/rolled-7.frames.json",
    )
    .action(async (folder: string, file: string, options: Options) =>
      printAnswer(await bake(folder, file, options), options),
    );
}

async function bake(folder: string, file: string, options: Options): Promise<Answer> {
  const { character, look, images } = await loadDrawnCharacter(folder, file);
  const { image, table } = bakeSheet(look, images, options);
  const sheet = join(options.out, `${character.id}.png`);
  const frames = join(options.out, `${character.id}.frames.json`);
  await writeOutput(sheet, encodePng(image));
  await writeOutput(frames, `${JSON.stringify(table, null, 2)}\n`);
  const text = `Written: ${sheet}, ${image.width}×${image.height} pixels, ${counted(table.frames.length, "frame")}\nWritten: ${frames}`;
  return { text, data: { sheet, frames, width: image.width, height: image.height, count: table.frames.length } };
}
