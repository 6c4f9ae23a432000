import { type Command, InvalidArgumentError, Option } from "commander";
import type { SheetOptions } from "../core/art/sheet/read-sheet.ts";
import { parseColor } from "../core/base/color/color.ts";
import { positiveNumber, wholeNumber } from "./numbers.ts";
import { words, wordsOf } from "./words.ts";

/** What the options of `mantle import` say. */
export interface ImportOptions {
  readonly to: string;
  readonly rig?: string;
  readonly slot?: string;
  readonly depth?: number;
  readonly channel?: string;
  readonly folder?: string;
  readonly out: string;
  readonly on?: string;
  readonly write?: boolean;
  readonly replace?: boolean;
  readonly blank?: number;
  readonly anchor?: readonly [number, number];
  // Sheets and strips
  readonly cell?: readonly [number, number];
  readonly at?: readonly [number, number];
  readonly across?: NonNullable<SheetOptions["across"]>;
  readonly down?: NonNullable<SheetOptions["down"]>;
  readonly columns?: number;
  readonly rows?: number;
  readonly margin?: number;
  readonly spacing?: number;
  readonly animations?: readonly string[];
  readonly facings?: readonly string[];
  readonly still?: boolean;
  readonly each?: "row" | "column";
  // One file a frame, and tables
  readonly pattern?: string;
  readonly names?: readonly string[];
  readonly table?: string;
  readonly lines?: string;
  // Figures between gaps
  readonly gaps?: boolean;
  readonly gap?: number;
  readonly near?: number;
  readonly drop?: number;
  readonly frames?: boolean;
  readonly called?: readonly string[];
  // Drawings in layers
  readonly guides?: readonly string[];
  readonly corner?: readonly [number, number];
  // Figures in three dimensions
  readonly id?: string;
  readonly choices?: string;
  readonly rebind?: boolean;
  readonly json?: boolean;
}

const axes = ["animation", "facing", "frame"] as const;

/** Gives the command its options, in the order in which people meet them. */
export function defineOptions(command: Command): void {
  command
    .argument("<files...>", "PNG or OpenRaster files, or a figure: a glTF 2.0 file, .glb or .gltf")
    .requiredOption("--to <catalog>", "folder with catalog.json, which the parts are for")
    .option("--slot <id>", "the slot the parts go in")
    .option("--rig <id>", "the rig they fit; the only one when left out")
    .option(
      "--depth <number>",
      "how near they are to the viewer; what the rig says for the slot when left out",
      wholeNumber,
    )
    .option("--channel <id>", "the channel they are colored through")
    .option("--blank <color>", "a key color that means nothing is there, like #ff00ff", color)
    .option("--anchor <x,y>", "where the origin lies in a picture, 0,0 to 1,1; 0.5,1 is the middle of its bottom", pair)
    .optionsGroup("Sheets and strips:")
    .option("--cell <size>", "the size of a cell, like 32x48; the rig's frame when left out", size)
    .option("--at <x,y>", "where a cell lies in the rig's frame", pair)
    .option(
      "--across <axes>",
      `what changes from left to right: ${axes.join(", ")}, or several with commas between them`,
      wordsOf(axes),
    )
    .option("--down <axes>", "what changes from the top down, in the same way", wordsOf(axes))
    .option("--columns <count>", "everything in one run, so many to a row", positiveNumber)
    .option("--rows <count>", "everything down, then right, so many to a column", positiveNumber)
    .option("--margin <pixels>", "pixels around all cells", wholeNumber)
    .option("--spacing <pixels>", "pixels between cells", wholeNumber)
    .option("--animations <ids>", "which are drawn, in this order, like walk,idle", words)
    .option("--facings <ids>", "which are drawn, in this order, like south,west; any for one that is for all", words)
    .option("--still", "one picture for every animation and frame")
    .addOption(new Option("--each <line>", "a part in each row, or column").choices(["row", "column"]))
    .optionsGroup("One file a frame, or a table:")
    .option("--pattern <pattern>", "what names look like: {part}_{animation}_{facing}_{frame}")
    .option("--names <word=id>", "what words in names stand for: S=south,W=west", words)
    .option("--table <file>", "the table that comes with a packed picture")
    .option(
      "--lines <pattern>",
      "what its lines look like, if it is text: {name} {x} {y} {width} {height} {feet-x} {feet-y}",
    )
    .optionsGroup("Figures on one picture:")
    .option("--gaps", "cut where nothing is between figures")
    .option("--gap <pixels>", "blank pixels that may lie within a figure", wholeNumber)
    .option("--near <pixels>", "how far from a figure what stands alone still belongs to it", wholeNumber)
    .option("--drop <pixels>", "leave out what stands alone and has so many pixels or fewer", wholeNumber)
    .option("--frames", "figures are frames of one part, a row for each animation and facing")
    .option("--called <names>", "what the parts are called, in their order, with commas between them", words)
    .optionsGroup("Drawings in layers:")
    .option(
      "--guides <names>",
      "layers and groups that are no part, with commas between them; body and guide when left out",
      words,
    )
    .option("--corner <x,y>", "where the rig's frame begins on the canvas", pair)
    .optionsGroup("What comes of it:")
    .option("--on <body>", "the body that parts are shown on; the first of the rig when left out")
    .option("--folder <name>", "the folder of the catalog that files go in: art, or models for a figure, when left out")
    .option("--out <folder>", "where the contact sheets of a plan go", "imported")
    .option("--write", "write what was planned: all of it, or nothing")
    .option("--replace", "replace files that were imported before")
    .option(
      "--id <id>",
      "figure: the id of the body that is made, and of its rig; that of the file's name when left out",
    )
    .option("--rebind", "figure: bring one that rests otherwise into the pose of the rig, and bind it to that")
    .option(
      "--choices <file>",
      "figure: JSON file of what each mesh becomes; written with what was guessed when it is missing",
    )
    .option("--json", "print data for programs");
}

function pair(text: string): readonly [number, number] {
  const numbers = text.split(",").map(Number);
  const [x = Number.NaN, y = Number.NaN] = numbers;
  if (numbers.length !== 2 || !Number.isFinite(x) || !Number.isFinite(y))
    throw new InvalidArgumentError("Give two numbers, like 16,0.");
  return [x, y];
}

function size(text: string): readonly [number, number] {
  const [, width, height] = /^(\d{1,4})[x×](\d{1,4})$/.exec(text) ?? [];
  if (width === undefined || height === undefined || Number(width) * Number(height) === 0)
    throw new InvalidArgumentError("Give a width and a height, like 32x48.");
  return [Number(width), Number(height)];
}

function color(text: string): number {
  const found = parseColor(text);
  if (found === undefined) throw new InvalidArgumentError("Give a color like #ff00ff.");
  return found;
}
