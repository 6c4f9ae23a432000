import type { Command } from "commander";
import { composeFrame } from "../core/raster/compose-frame.ts";
import { drawCrop } from "../core/raster/draw-crop.ts";
import { enlargeImage } from "../core/raster/image.ts";
import { encodePng } from "../core/raster/png.ts";
import { loadDrawnCharacter } from "./drawn-character.ts";
import { positiveNumber, seconds } from "./numbers.ts";
import { type Answer, printAnswer } from "./output.ts";
import { writeOutput } from "./write-output.ts";

interface Options {
  readonly out: string;
  readonly animation: string;
  readonly facing: string;
  readonly time: number;
  readonly scale: number;
  readonly portrait?: boolean;
  readonly json?: boolean;
}

/** `mantle draw`: one picture of a character. */
export function addDraw(program: Command): void {
  program
    .command("draw")
    .description("Draw a character at one moment, or its portrait, as a PNG.")
    .argument("<catalog>", "folder with catalog.json")
    .argument("<character>", "file of the character, or of its save")
    .requiredOption("--out <file>", "the PNG to write")
    .option("--animation <id>", "which animation", "idle")
    .option("--facing <id>", "which facing", "south")
    .option("--time <seconds>", "how far into the animation", seconds, 0)
    .option("--scale <number>", "pixels of the picture for each drawn pixel, on a side", positiveNumber, 1)
    .option("--portrait", "draw the portrait crop of the rig instead")
    .option("--json", "print data for programs")
    .addHelpText(
      "after",
      "\nExample:\n  $ mantle draw demo/saltmarsh out/rolled/rolled-7.json --facing west --animation walk --time 0.3 --scale 4 --out out/walking.png\n  Written: out/walking.png, 256×320 pixels",
    )
    .action(async (folder: string, file: string, options: Options) =>
      printAnswer(await draw(folder, file, options), options),
    );
}

async function draw(folder: string, file: string, options: Options): Promise<Answer> {
  const { look, images } = await loadDrawnCharacter(folder, file);
  const { animation, facing, time } = options;
  const drawn = options.portrait
    ? drawCrop(look, images, "portrait")
    : composeFrame(look, images, { animation, facing, time });
  const picture = enlargeImage(drawn, options.scale);
  await writeOutput(options.out, encodePng(picture));
  const { width, height } = picture;
  return { text: `Written: ${options.out}, ${width}×${height} pixels`, data: { file: options.out, width, height } };
}
