import { join } from "node:path";
import type { Moment } from "../core/look/look.ts";
import { bakeSheet } from "../core/raster/bake-sheet.ts";
import { contentName } from "../core/raster/content-name.ts";
import { encodePng } from "../core/raster/png/encode-png.ts";
import { drawerOf, isSeenInPictures, loadDrawnCharacter } from "./drawn-character.ts";
import { type Answer, counted, type DefineCommand } from "./output.ts";
import { writeOutput } from "./write-output.ts";

interface Options {
  readonly out: string;
  readonly animations?: readonly string[];
  readonly facings?: readonly string[];
  readonly packed?: boolean;
  readonly model?: boolean;
  readonly form?: string;
  readonly json?: boolean;
}

/** `mantle bake`: whole frames of a character in one sheet, and the table of what is where. */
export const defineBake: DefineCommand = (command, terminal) => {
  command
    .argument("<catalog>", "folder with catalog.json")
    .argument("<character>", "file of the character, or folder of its save")
    .requiredOption("--out <folder>", "where to write the sheet and its table")
    .option("--animations <ids...>", "which animations; all when left out")
    .option("--facings <ids...>", "which facings; all when left out")
    .option("--packed", "cut blank edges off, keep equal frames once, and pack them close")
    .option("--model", "bake it in three dimensions; so is a character without pictures")
    .option("--form <id>", "in which form, whatever the signals say")
    .option("--json", "print data for programs")
    .addHelpText(
      "after",
      "\nExample:\n  $ mantle bake saltmarsh out/rolled/rolled-7.json --animations walk --out out/baked\n  Written: out/baked/HASH.png, 512×320 pixels, 32 frames\n  Written: out/baked/HASH.frames.json",
    )
    .action(async (folder: string, file: string, options: Options) =>
      terminal.answer(await bake(folder, file, options), options),
    );
};

async function bake(folder: string, file: string, options: Options): Promise<Answer> {
  const { form, model = false, ...rest } = options;
  const drawn = await loadDrawnCharacter(folder, file, form === undefined ? {} : { form });
  const { look, images } = drawn;
  const drawer = isSeenInPictures(drawn, { model }) ? undefined : await drawerOf(folder, drawn, { model });
  const draw = drawer && ((moment: Moment) => drawer.frame(moment, 1));
  const { image, table } = bakeSheet(look, images, { ...rest, ...(draw && { draw }) });
  const [pixels, text] = [encodePng(image), `${JSON.stringify(table, null, 2)}\n`];
  const name = contentName(pixels, text);
  const sheet = join(options.out, `${name}.png`);
  const frames = join(options.out, `${name}.frames.json`);
  await writeOutput(sheet, pixels);
  await writeOutput(frames, text);
  const size = `${image.width}×${image.height} pixels, ${counted(table.frames.length, "frame")}`;
  const lines = [`Written: ${sheet}, ${size}`, `Written: ${frames}`];
  return { lines, data: { sheet, frames, width: image.width, height: image.height, count: table.frames.length } };
}
