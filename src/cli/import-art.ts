import { readFile } from "node:fs/promises";
import { basename, dirname, relative, resolve, sep } from "node:path";
import { readFiles } from "../core/art/files/read-files.ts";
import type { Found } from "../core/art/found.ts";
import { readFigures } from "../core/art/gaps/read-figures.ts";
import { readDrawing } from "../core/art/layered/read-drawing.ts";
import { readSheet, type SheetOptions } from "../core/art/sheet/read-sheet.ts";
import { readTable } from "../core/art/table/read-table.ts";
import { MantleError, type Problem } from "../core/base/problem.ts";
import type { Catalog, Rig } from "../core/catalog/model/catalog.ts";
import type { Look } from "../core/look/look.ts";
import { composeFrame } from "../core/raster/compose-frame.ts";
import type { Image, Images } from "../core/raster/image.ts";
import { otherColors } from "../core/raster/png/color-space.ts";
import { decodeNamedPng } from "../core/raster/png/decode-named-png.ts";
import { reasonOf } from "../node/file-error.ts";
import { notSrgb } from "../node/picture-reader.ts";
import type { ImportOptions } from "./import-options.ts";

/** The bare body that parts are shown on. */
export interface Figure {
  readonly look: Look;
  readonly images: Images;
}

/** What art is read for. */
interface Setting {
  readonly catalog: Catalog;
  readonly rig: Rig;
  readonly on: Figure | undefined;
}

/** Reads the files, each by its kind, or all of them together. */
export async function readArt(
  files: readonly string[],
  { catalog, rig, on }: Setting,
  options: ImportOptions,
): Promise<Found> {
  const { pattern = "{part}_{animation}_{facing}_{frame}", table, gaps, anchor } = options;
  const anchored = anchor === undefined ? {} : { anchor };
  const named = { pattern, names: namesOf(options.names ?? []) };
  const [first = ""] = files;
  if (table !== undefined) {
    const text = (await readBytes(table)).toString("utf8");
    const lines = options.lines === undefined ? {} : { lines: options.lines };
    return readTable(basename(first), await readPicture(first, options), text, rig, {
      ...named,
      ...lines,
      ...anchored,
    });
  }
  if (options.pattern !== undefined) {
    const pictures = new Map<string, Image>();
    const above = commonFolder(files);
    for (const file of files)
      pictures.set(relative(above, file).split(sep).join("/"), await readPicture(file, options));
    return readFiles(basename(first), pictures, rig, { ...named, ...anchored });
  }
  const each: Found[] = [];
  for (const file of files) {
    const name = basename(file);
    if (/\.ora$/i.test(file)) {
      const sheet = isSheet(options) ? { sheet: sheetOptions(options) } : {};
      const figure = on === undefined ? {} : { figure: firstFrame(on, rig) };
      const { guides, corner } = options;
      const said = { ...(guides === undefined ? {} : { guides }), ...(corner === undefined ? {} : { corner }) };
      const slots = new Set(catalog.slots.keys());
      each.push(readDrawing(name, await readBytes(file), rig, { slots, ...figure, ...said, ...sheet }));
    } else if (gaps === true) {
      const { gap, near, drop, called } = options;
      const limits = Object.fromEntries(
        Object.entries({ gap, near, drop, called }).filter(([, value]) => value !== undefined),
      );
      const as = options.frames === true ? "frames" : "parts";
      each.push(readFigures(name, await readPicture(file, options), rig, { ...limits, as, ...anchored }));
    } else each.push(readSheet(name, await readPicture(file, options), rig, sheetOptions(options)));
  }
  return { parts: each.flatMap(({ parts }) => parts), problems: each.flatMap(({ problems }) => problems) };
}

/** Findings about pictures that say their colors are not sRGB. */
export async function otherSpaces(files: readonly string[]): Promise<readonly Problem[]> {
  const found: Problem[] = [];
  for (const file of files) {
    const space = /\.png$/i.test(file) ? otherColors(await readBytes(file)) : undefined;
    if (space !== undefined) found.push(notSrgb(basename(file), space));
  }
  return found;
}

/** The folder that all files are in, or in folders of: what their names say begins there. */
function commonFolder(files: readonly string[]): string {
  return files
    .map((file) => dirname(resolve(file)))
    .reduce((one, other) => {
      let above = one;
      while (other !== above && !other.startsWith(above.endsWith(sep) ? above : above + sep)) above = dirname(above);
      return above;
    });
}

function firstFrame({ look, images }: Figure, rig: Rig): Image {
  const [animation = ""] = rig.animations.keys();
  const [facing = ""] = rig.facings.keys();
  return composeFrame(look, images, { animation, facing, time: 0 });
}

function namesOf(words: readonly string[]): Readonly<Record<string, string>> {
  return Object.fromEntries(
    words.map((each) => {
      const [word, id, more] = each.split("=");
      if (word === undefined || id === undefined || more !== undefined)
        throw new MantleError(
          "bad-call",
          `"${each}" says nothing. Write a word and the id that it stands for, like S=south.`,
        );
      return [word, id];
    }),
  );
}

function isSheet({ columns, rows, across, down, cell, each, animations }: ImportOptions): boolean {
  return [columns, rows, across, down, cell, each, animations].some((value) => value !== undefined);
}

function sheetOptions(options: ImportOptions): SheetOptions {
  const { cell, facings, at, across, down, columns, rows, margin, spacing, animations, still, each } = options;
  const said = {
    cell: cell && { width: cell[0], height: cell[1] },
    facings: facings?.[0] === "any" ? "any" : facings,
    at,
    across,
    down,
    columns,
    rows,
    margin,
    spacing,
    animations,
    still,
    each,
  };
  return Object.fromEntries(Object.entries(said).filter(([, value]) => value !== undefined));
}

async function readBytes(path: string): Promise<Buffer> {
  return readFile(path).catch((error: unknown) => {
    throw new MantleError("unreadable-file", `${path} cannot be read: ${reasonOf(error)}.`);
  });
}

async function readPicture(path: string, { blank }: ImportOptions): Promise<Image> {
  const image = decodeNamedPng(path, await readBytes(path));
  if (blank === undefined) return image;
  const key = [blank >> 16, (blank >> 8) & 255, blank & 255];
  for (let at = 0; at < image.data.length; at += 4)
    if (key.every((part, channel) => image.data[at + channel] === part)) image.data.fill(0, at, at + 4);
  return image;
}
