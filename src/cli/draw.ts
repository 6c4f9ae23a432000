import { Option } from "commander";
import { MantleError } from "../core/base/problem.ts";
import type { Look } from "../core/look/look.ts";
import { animationOf, durationOf, timedFrames } from "../core/look/moments.ts";
import type { Image } from "../core/raster/image.ts";
import { encodeApng } from "../core/raster/png/encode-apng.ts";
import { encodePng } from "../core/raster/png/encode-png.ts";
import type { CatalogPlace } from "../node/catalog-place.ts";
import { catalogArgument, type PackOptions, placeOf } from "./catalog-argument.ts";
import { type Drawer, type DrawnCharacter, drawerOf, loadDrawnCharacter } from "./drawn-character.ts";
import { positiveNumber, seconds, wholeNumber } from "./numbers.ts";
import { type Answer, counted, type DefineCommand } from "./output.ts";
import { writeOutput } from "./write-output.ts";

interface Options extends PackOptions {
  readonly out: string;
  readonly animation: string;
  readonly facing: string;
  readonly time: number;
  readonly frame?: number;
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
  catalogArgument(command)
    .argument("<character>", "file of the character, or folder of its save")
    .requiredOption("--out <file>", "the PNG to write")
    .option("--animation <id>", "which animation", "idle")
    .option("--facing <id>", "which facing", "south")
    .option("--time <seconds>", "how far into the animation", seconds, 0)
    .addOption(
      new Option("--frame <number>", "which frame of the animation, from 0, in place of a time")
        .argParser(wholeNumber)
        .conflicts("time"),
    )
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
      terminal.answer(await draw(placeOf(folder, options), file, options), options),
    );
};

async function draw(place: CatalogPlace, file: string, options: Options): Promise<Answer> {
  if (!/\.png$/i.test(options.out))
    throw new MantleError(
      "bad-call",
      `"${options.out}" is no name of a PNG, which this command writes. End it with .png.`,
    );
  const drawn = await loadDrawnCharacter(place, file, options.form === undefined ? {} : { form: options.form });
  const drawer = await drawerOf(place, drawn, options);
  const time = options.frame === undefined ? options.time : startOf(drawn.look, options.animation, options.frame);
  if (options.animated) return animate(drawn, drawer, options);
  const picture = await pictureOf(drawer, { ...options, time });
  await writeOutput(options.out, encodePng(picture));
  const { width, height } = picture;
  return { lines: [`Written: ${options.out}, ${width}×${height} pixels`], data: { file: options.out, width, height } };
}

/** When a frame of an animation begins, in seconds. */
function startOf(look: Look, animation: string, frame: number): number {
  const frames = timedFrames(animationOf(look, animation));
  const found = frames[frame];
  if (found !== undefined) return found.time;
  const all = counted(frames.length, "frame");
  throw new MantleError("bad-call", `"${animation}" has ${all}. Give --frame a number from 0 to ${frames.length - 1}.`);
}

async function pictureOf(
  drawer: Drawer,
  { animation, facing, time, icon, scale, portrait, token }: Options,
): Promise<Image> {
  if (icon !== undefined) return drawer.icon(icon, scale);
  if (portrait) return drawer.crop("portrait", scale);
  return token ? drawer.crop("token", scale) : drawer.frame({ animation, facing, time }, scale);
}

async function animate(
  { look }: DrawnCharacter,
  drawer: Drawer,
  { animation, facing, scale, out }: Options,
): Promise<Answer> {
  const pictures = timedFrames(animationOf(look, animation)).map(({ time, duration }) => ({
    image: drawer.frame({ animation, facing, time }, scale),
    duration,
  }));
  await writeOutput(out, encodeApng(pictures));
  const { width = 0, height = 0 } = pictures[0]?.image ?? {};
  const seconds = durationOf(look, animation);
  const text = `Written: ${out}, ${width}×${height} pixels, ${counted(pictures.length, "frame")} in ${Number(seconds.toFixed(2))} seconds`;
  return { lines: [text], data: { file: out, width, height, frames: pictures.length, seconds } };
}
