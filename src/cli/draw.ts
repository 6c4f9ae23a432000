import { MantleError } from "../core/base/problem.ts";
import { iconLook } from "../core/look/icon-look.ts";
import { animationOf, durationOf, runOf } from "../core/look/moments.ts";

import { drawCrop } from "../core/raster/draw-crop.ts";
import { drawIcon } from "../core/raster/draw-icon.ts";
import { enlargeImage } from "../core/raster/image.ts";
import { encodeApng } from "../core/raster/png/encode-apng.ts";
import { encodePng } from "../core/raster/png/encode-png.ts";
import { loadImages } from "../node/load-images.ts";
import {
  type DrawFrame,
  type DrawnCharacter,
  frameDrawer,
  isSeenInPictures,
  loadDrawnCharacter,
} from "./drawn-character.ts";
import { positiveNumber, seconds } from "./numbers.ts";
import { type Answer, counted, type DefineCommand } from "./output.ts";
import { writeOutput } from "./write-output.ts";

interface Options {
  readonly out: string;
  readonly animation: string;
  readonly facing: string;
  readonly time: number;
  readonly scale: number;
  readonly form?: string;
  readonly portrait?: boolean;
  readonly token?: boolean;
  readonly icon?: string;
  readonly animated?: boolean;
  readonly model?: boolean;
  readonly json?: boolean;
}

/** `mantle draw`: one picture of a character. */
export const defineDraw: DefineCommand = (command, terminal) => {
  command
    .argument("<catalog>", "folder with catalog.json")
    .argument("<character>", "file of the character, or folder of its save")
    .requiredOption("--out <file>", "the PNG to write")
    .option("--animation <id>", "which animation", "idle")
    .option("--facing <id>", "which facing", "south")
    .option("--time <seconds>", "how far into the animation", seconds, 0)
    .option("--scale <number>", "pixels of the picture for each drawn pixel, on a side", positiveNumber, 1)
    .option("--form <id>", "in which form, whatever the signals say")
    .option("--animated", "draw the whole animation as an animated PNG")
    .option("--portrait", "draw the portrait crop of the rig instead")
    .option("--token", "draw the token crop of the rig instead")
    .option("--model", "draw it in three dimensions; so is a character without pictures")
    .option("--icon <part>", "draw the option icon of a part instead, in the character's colors")
    .option("--json", "print data for programs")
    .addHelpText(
      "after",
      "\nExample:\n  $ mantle draw saltmarsh out/rolled/rolled-7.json --facing west --animation walk --time 0.3 --scale 4 --out out/walking.png\n  Written: out/walking.png, 256×320 pixels",
    )
    .action(async (folder: string, file: string, options: Options) =>
      terminal.answer(await draw(folder, file, options), options),
    );
};

async function draw(folder: string, file: string, options: Options): Promise<Answer> {
  const drawn = await loadDrawnCharacter(folder, file, options.form === undefined ? {} : { form: options.form });
  if ((options.portrait || options.token) && !isSeenInPictures(drawn, options))
    throw new MantleError("bad-call", "Portraits and tokens are drawn of pictures. Leave --portrait and --token out.");
  const drawFrame = await frameDrawer(folder, drawn, options);
  if (options.animated) return animate(drawn, drawFrame, options);
  const picture = enlargeImage(await pictureOf(folder, drawn, drawFrame, options), options.scale);
  await writeOutput(options.out, encodePng(picture));
  const { width, height } = picture;
  return { lines: [`Written: ${options.out}, ${width}×${height} pixels`], data: { file: options.out, width, height } };
}

async function pictureOf(
  folder: string,
  { catalog, character, look, images }: DrawnCharacter,
  drawFrame: DrawFrame,
  options: Options,
) {
  const { animation, facing, time, icon } = options;
  if (icon !== undefined) {
    const worn = iconLook(catalog, character, icon);
    return drawIcon(worn, await loadImages(folder, [worn]), icon);
  }
  if (options.portrait) return drawCrop(look, images, "portrait");
  if (options.token) return drawCrop(look, images, "token");
  return drawFrame({ animation, facing, time });
}

async function animate(
  { look }: DrawnCharacter,
  drawFrame: DrawFrame,
  { animation, facing, scale, out }: Options,
): Promise<Answer> {
  const pictures = runOf(animationOf(look, animation)).map(({ time, duration }) => ({
    image: enlargeImage(drawFrame({ animation, facing, time }), scale),
    duration,
  }));
  await writeOutput(out, encodeApng(pictures));
  const { width = 0, height = 0 } = pictures[0]?.image ?? {};
  const seconds = durationOf(look, animation);
  const text = `Written: ${out}, ${width}×${height} pixels, ${counted(pictures.length, "frame")} in ${Number(seconds.toFixed(2))} seconds`;
  return { lines: [text], data: { file: out, width, height, frames: pictures.length, seconds } };
}
