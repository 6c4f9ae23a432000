import { join } from "node:path";
import { Option } from "commander";
import { MantleError } from "../core/base/problem.ts";
import type { Look, Moment } from "../core/look/look.ts";
import { type BakedSheet, type BakeOptions, bakeSheet, bakeSheets } from "../core/raster/bake-sheet.ts";
import { contentHash } from "../core/raster/content-hash.ts";
import type { Images } from "../core/raster/image.ts";
import { encodePng } from "../core/raster/png/encode-png.ts";
import { sheetTable } from "../core/raster/sheet-table.ts";
import type { CatalogPlace } from "../node/catalog-place.ts";
import { catalogArgument, type PackOptions, placeOf } from "./catalog-argument.ts";
import { type DrawnCharacter, drawerOf, isSeenInPictures, loadDrawnCharacter } from "./drawn-character.ts";
import { positiveNumber, size } from "./numbers.ts";
import { type Answer, counted, type DefineCommand } from "./output.ts";
import { words } from "./words.ts";
import { writeOutput } from "./write-output.ts";

interface Options extends PackOptions {
  readonly out: string;
  readonly animations?: readonly string[];
  readonly facings?: readonly string[];
  readonly packed?: boolean;
  readonly table: "frames" | "map" | "list";
  readonly maxSize?: number;
  readonly gap?: number;
  readonly extrude?: number;
  readonly model?: boolean;
  readonly channels?: boolean;
  readonly form?: string;
  readonly json?: boolean;
}

/** `mantle bake`: the frames of a character in a sheet, or several, and the table of what is where. */
export const defineBake: DefineCommand = (command, terminal) => {
  catalogArgument(command)
    .argument("<character>", "file of the character, or folder of its save")
    .requiredOption("--out <folder>", "where to write the sheet and its table")
    .option("--animations <ids>", "which animations, like walk,idle; all when left out", words)
    .option("--facings <ids>", "which facings, like south,west; all when left out", words)
    .option("--packed", "cut blank edges off, keep equal frames once, and pack them close")
    .addOption(
      new Option("--table <form>", "our own table, or the form of sheets that loaders of engines read")
        .choices(["frames", "map", "list"])
        .default("frames"),
    )
    .option(
      "--max-size <pixels>",
      "the greatest width and height of a sheet; what does not fit goes to more",
      positiveNumber,
    )
    .option("--gap <pixels>", "blank pixels between frames; 1 when left out", size)
    .option("--extrude <pixels>", "repeat the outermost pixels of each frame around it; 0 when left out", size)
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
      terminal.answer(await bake(placeOf(folder, options), file, options), options),
    );
};

async function bake(place: CatalogPlace, file: string, options: Options): Promise<Answer> {
  const { form, model = false, channels = false, animations, facings, packed = false } = options;
  const drawn = await loadDrawnCharacter(place, file, form === undefined ? {} : { form });
  if (channels) return bakeChannels(place, drawn, options);
  const { look, images } = drawn;
  const drawer = isSeenInPictures(drawn, { model }) ? undefined : await drawerOf(place, drawn, { model });
  const draw = drawer && ((moment: Moment) => drawer.frame(moment, 1));
  const which = { ...(animations && { animations }), ...(facings && { facings }), ...(draw && { draw }), packed };
  const written = await writeSheets(sheetsOf(look, images, which, options), options);
  const lines = written.flatMap(({ image, table, width, height, count }) => [
    `Written: ${image}, ${width}×${height} pixels, ${counted(count, "frame")}`,
    `Written: ${table}`,
  ]);
  return { lines, data: { sheets: written } };
}

/** Whole frames in rows and columns where nothing else is asked for; or else packed. */
function sheetsOf(look: Look, images: Images, which: BakeOptions, options: Options): readonly BakedSheet[] {
  const { table, maxSize, gap, extrude } = options;
  if ([maxSize, gap, extrude].every((each) => each === undefined) && (which.packed !== true || table === "frames"))
    return [bakeSheet(look, images, which)];
  try {
    return bakeSheets(look, images, {
      ...which,
      ...(maxSize !== undefined && { size: maxSize }),
      ...(gap !== undefined && { gap }),
      ...(extrude !== undefined && { extrude }),
      blank: table !== "frames",
    });
  } catch (error) {
    if (!(error instanceof MantleError) || error.code !== "picture-too-large") throw error;
    throw new MantleError(error.code, `${error.message} Give a larger --max-size.`);
  }
}

interface Written {
  readonly image: string;
  readonly table: string;
  readonly width: number;
  readonly height: number;
  readonly count: number;
}

/** Writes sheets and their tables, named by their content. */
async function writeSheets(sheets: readonly BakedSheet[], { out, table: form }: Options): Promise<readonly Written[]> {
  const named = sheets.map(({ image, table }) => {
    const pixels = encodePng(image);
    const name = contentHash(pixels, form, JSON.stringify(table));
    return { image, table: { ...table, image: `${name}.png` }, pixels, name };
  });
  const fileOf = (name: string) => (form === "frames" ? `${name}.frames.json` : `${name}.json`);
  const written: Written[] = [];
  for (const { image, table, pixels, name } of named) {
    const { width, height } = image;
    const others = named.flatMap((other) => (other.name === name ? [] : [fileOf(other.name)]));
    const said = form === "frames" ? table : sheetTable(table, { form, size: image, others });
    const files = { image: join(out, `${name}.png`), table: join(out, fileOf(name)) };
    await writeOutput(files.image, pixels);
    await writeOutput(files.table, `${JSON.stringify(said, null, 2)}\n`);
    written.push({ ...files, width, height, count: table.frames.length });
  }
  return written;
}

/** A sheet for each channel, as the rig expects sheets, and the layers that show them. */
async function bakeChannels(place: CatalogPlace, drawn: DrawnCharacter, options: Options): Promise<Answer> {
  const { look, images } = drawn;
  if (isSeenInPictures(drawn, { model: options.model ?? look.skeleton !== undefined }))
    throw new MantleError(
      "bad-call",
      "--channels bakes models, and this character is seen in pictures. Name one whose body has a model.",
    );
  if (options.packed === true)
    throw new MantleError("bad-call", "--channels bakes whole frames, as layers expect them. Leave --packed out.");
  const { prepareModel, channelsOf, withKeyColors, drawModel } = await import("../core/model.ts");
  const { loadModels } = await import("../node/load-models.ts");
  const model = await prepareModel(withKeyColors(look), await loadModels(place, [look]));
  const facings =
    options.facings ?? [...look.rig.facings.values()].flatMap(({ id, mirrored }) => (mirrored ? [] : [id]));
  const layers = [];
  for (const channel of channelsOf(model)) {
    const draw = (moment: Moment) => drawModel(model, moment, { only: channel });
    const { image } = bakeSheet(look, images, {
      ...(options.animations && { animations: options.animations }),
      facings,
      draw,
    });
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
