import { readFile } from "node:fs/promises";
import { basename, dirname, relative, resolve, sep } from "node:path";
import type { Found } from "../core/art/found.ts";
import type { ArtOptions } from "../core/art/importer.ts";
import { readArt } from "../core/art/read-art.ts";
import { MantleError, type Problem } from "../core/base/problem.ts";
import type { Catalog, Rig } from "../core/catalog/model/catalog.ts";
import type { Look } from "../core/look/look.ts";
import { composeFrame } from "../core/raster/compose-frame.ts";
import type { Image, Images } from "../core/raster/image.ts";
import { otherColors } from "../core/raster/png/color-space.ts";
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
export async function readArtFiles(
  files: readonly string[],
  { catalog, rig, on }: Setting,
  options: ImportOptions,
): Promise<Found> {
  const above = commonFolder(files);
  const named = new Map<string, Uint8Array>();
  for (const file of files) named.set(relative(above, file).split(sep).join("/"), await readBytes(file));
  const setting = {
    rig,
    slots: new Set(catalog.slots.keys()),
    ...(on === undefined ? {} : { figure: firstFrame(on, rig) }),
  };
  const table = options.table === undefined ? undefined : (await readBytes(options.table)).toString("utf8");
  return readArt(named, setting, artOptions(options, table));
}

/** What of the options says how art is read. */
function artOptions({ cell, facings, names, ...options }: ImportOptions, table: string | undefined): ArtOptions {
  const { at, across, down, columns, rows, margin, spacing, animations, still, each } = options;
  const { pattern, lines, gaps, gap, near, drop, frames, called, guides, corner, blank, anchor } = options;
  const said = {
    ...{ at, across, down, columns, rows, margin, spacing, animations, still, each },
    ...{ pattern, lines, gaps, gap, near, drop, frames, called, guides, corner, blank, anchor },
    cell: cell && { width: cell[0], height: cell[1] },
    facings: facings?.[0] === "any" ? "any" : facings,
    names: names && idsByWord(names),
    table,
  };
  return Object.fromEntries(Object.entries(said).filter(([, value]) => value !== undefined));
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

function idsByWord(words: readonly string[]): Readonly<Record<string, string>> {
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

async function readBytes(path: string): Promise<Buffer> {
  return readFile(path).catch((error: unknown) => {
    throw new MantleError("unreadable-file", `${path} cannot be read: ${reasonOf(error)}.`);
  });
}
