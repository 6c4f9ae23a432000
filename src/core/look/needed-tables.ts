import { getOrInsert } from "../base/get-or-insert.ts";
import { limits } from "../base/limits.ts";
import type { Body, Catalog, Layer, Point, Size } from "../catalog/model/catalog.ts";
import { isTabled, tablePath } from "../catalog/model/frames-table.ts";
import { layersOnBodies } from "./check-art.ts";
import { pictureOf } from "./picture-of.ts";

/** A frames table that layers of a catalog need. */
export interface NeededTable {
  /** Under this path `readCatalog` takes it. */
  readonly path: string;
  /** The files it is made of, by `tableOfFiles`, where there is one file a frame; `undefined` for a table that is a file itself. */
  readonly files: readonly FrameFile[] | undefined;
}

/** A file that may hold one frame; not every frame need be drawn. */
export interface FrameFile {
  readonly path: string;
  /** `undefined` for a file that is for all of them. */
  readonly animation: string | undefined;
  readonly facing: string | undefined;
  readonly frame: number | undefined;
  /** Where the origin lies in it, from 0 (left, top) to 1 (right, bottom). */
  readonly anchor: Point;
}

/**
 * The frames tables that the layers of a catalog need, so that they can be loaded, and the catalog read again with them.
 *
 * @example
 * for (const { path, files } of neededTables(catalog)) tables.set(path, files === undefined ? await fetchJson(path) : tableOfFiles(files, sizes))
 * readCatalog(main, included, { tables })
 */
export function neededTables(catalog: Catalog): readonly NeededTable[] {
  const needed = new Map<string, Map<string, FrameFile> | undefined>();
  for (const { layer, body } of layersOnBodies(catalog)) {
    if (!isTabled(layer)) continue;
    const path = tablePath(layer, body.artName);
    if (layer.frames !== undefined) needed.set(path, undefined);
    else {
      const files = getOrInsert(needed, path, () => new Map<string, FrameFile>());
      for (const file of filesOf(layer, body))
        if (files !== undefined && files.size < limits.bakedFrames) files.set(file.path, file);
    }
  }
  return [...needed].map(([path, files]) => ({ path, files: files && [...files.values()] }));
}

/** The files that a path with `{animation}`, `{facing}` or `{frame}` stands for. */
function* filesOf(layer: Layer, body: Body): Iterable<FrameFile> {
  const { rig } = body;
  const { laid } = layer;
  const path = pictureOf(layer, body);
  const drawn = [...rig.facings.values()].filter(({ mirrored }) => !mirrored).map(({ id }) => id);
  const animations = path.includes("{animation}") ? (laid.animations ?? [...rig.animations.keys()]) : [undefined];
  const facings = path.includes("{facing}") && laid.facings !== "any" ? (laid.facings ?? drawn) : [undefined];
  const [, first = "0"] = frameMark.exec(path) ?? [];
  for (const animation of animations) {
    const longest = Math.max(...[...rig.animations.values()].map(({ frames }) => frames));
    const count = rig.animations.get(animation ?? "")?.frames ?? longest;
    const frames = frameMark.test(path) ? Array.from({ length: count }, (_, frame) => frame) : [undefined];
    for (const facing of facings) {
      for (const frame of frames) {
        const number = String(Number(first) + (frame ?? 0)).padStart(first.length, "0");
        const file = path
          .replaceAll("{animation}", laid.names.get(animation ?? "") ?? animation ?? "")
          .replaceAll("{facing}", laid.names.get(facing ?? "") ?? facing ?? "")
          .replaceAll(new RegExp(frameMark, "g"), number);
        yield { path: file, animation, facing, frame, anchor: laid.anchor };
      }
    }
  }
}

/** Stands for the number of a frame; `{frame:001}` begins with 1 and has three digits. */
const frameMark = /\{frame(?::(\d{1,9}))?\}/;

/**
 * Makes the frames table of a layer that has one file a frame.
 *
 * @param sizes - of the files that are there, by path; frames without a file are not drawn.
 */
export function tableOfFiles(files: readonly FrameFile[], sizes: ReadonlyMap<string, Size | undefined>): object {
  const found = files.flatMap((file) => {
    const size = sizes.get(file.path);
    return size === undefined ? [] : [{ ...file, ...size }];
  });
  return {
    mantle: "frames/1",
    // Hung from the origin, whatever the frame of the rig.
    origin: [0, 0],
    size: [Math.max(1, ...found.map(({ width }) => width)), Math.max(1, ...found.map(({ height }) => height))],
    frames: found.map(({ path: image, animation, facing, frame, anchor, width, height }) => ({
      ...(animation === undefined ? {} : { animation }),
      ...(facing === undefined ? {} : { facing }),
      ...(frame === undefined ? {} : { frame }),
      image,
      rect: [0, 0, width, height],
      offset: [-Math.round(width * anchor.x), -Math.round(height * anchor.y)],
    })),
  };
}
