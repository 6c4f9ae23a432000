import { join } from "node:path";
import { MantleError } from "../core/base/problem.ts";
import type { Moment } from "../core/look/look.ts";
import { bakeSheet } from "../core/raster/bake-sheet.ts";
import { contentName } from "../core/raster/content-name.ts";
import { encodePng } from "../core/raster/png/encode-png.ts";
import { type DrawnCharacter, drawerOf, isSeenInPictures, loadDrawnCharacter } from "./drawn-character.ts";
import { type Answer, counted, type DefineCommand } from "./output.ts";
import { words } from "./words.ts";
import { writeOutput } from "./write-output.ts";

interface Options {
  readonly out: string;
  readonly animations?: readonly string[];
  readonly facings?: readonly string[];
  readonly packed?: boolean;
  readonly model?: boolean;
  readonly channels?: boolean;
  readonly form?: string;
  readonly json?: boolean;
}

/** `mantle bake`: whole frames of a character in one sheet, and the table of what is where. */
export const defineBake: DefineCommand = (command, terminal) => {
  command
    .argument("<catalog>", "folder with catalog.json")
    .argument("<character>", "file of the character, or folder of its save")
    .requiredOption("--out <folder>", "where to write the sheet and its table")
    .option("--animations <ids>", "which animations, like walk,idle; all when left out", words)
    .option("--facings <ids>", "which facings, like south,west; all when left out", words)
    .option("--packed", "cut blank edges off, keep equal frames once, and pack them close")
    .option("--model", "bake it in three dimensions; so is a character without pictures")
    .option(
      "--channels",
      "bake a model in key colors, a sheet for each channel, for the layers of a drawn body or part",
    )
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
  const { form, model = false, channels = false, ...rest } = options;
  const drawn = await loadDrawnCharacter(folder, file, form === undefined ? {} : { form });
  if (channels) return bakeChannels(folder, drawn, options);
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

/** A sheet for each channel, as the rig expects sheets, and the layers that show them. */
async function bakeChannels(folder: string, drawn: DrawnCharacter, options: Options): Promise<Answer> {
  const { look, images } = drawn;
  if (isSeenInPictures(drawn, { model: options.model ?? look.skeleton !== undefined }))
    throw new MantleError(
      "bad-call",
      "--channels bakes models, and this character is seen in pictures. Name one whose body has a model.",
    );
  if (options.packed === true)
    throw new MantleError("bad-call", "--channels bakes whole frames, as layers expect them. Leave --packed out.");
  const { prepareModel, channelsOf, inKeys, drawModel } = await import("../core/model.ts");
  const { loadModels } = await import("../node/load-models.ts");
  const model = await prepareModel(inKeys(look), await loadModels(folder, [look]));
  const facings =
    options.facings ?? [...look.rig.facings.values()].flatMap(({ id, mirrored }) => (mirrored ? [] : [id]));
  const layers = [];
  for (const channel of channelsOf(model)) {
    const draw = (moment: Moment) => drawModel(model, moment, { only: channel });
    const { image } = bakeSheet(look, images, { ...options, facings, draw });
    const file = join(options.out, `${channel === "" ? "own" : channel}.png`);
    await writeOutput(file, encodePng(image));
    layers.push({ image: file, ...(channel === "" ? {} : { channel }) });
  }
  const lines = layers.map(
    (layer) =>
      `Written: ${layer.image}${layer.channel === undefined ? "" : `, in the key colors of "${layer.channel}"`}`,
  );
  return { lines, data: { layers } };
}
