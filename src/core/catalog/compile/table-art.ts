import { getOrInsert } from "../../base/get-or-insert.ts";
import type { Rectangle, Rig } from "../model/drawn.ts";
import { isNumbered } from "../model/frames-table.ts";
import type { DrawnFrame, LayerArt, TableArt } from "../model/layer-art.ts";
import { inPack, packFolder } from "../pack-paths.ts";
import { readPoint, readRectangle } from "../read/numbers.ts";
import type { FramesSource } from "../schema/frames-schema.ts";
import { cut } from "./layout-art.ts";

/** Lays out a frames table on every rig. @param path - what it is called by layers. */
export function compileTable(path: string, table: FramesSource, rigs: ReadonlyMap<string, Rig>): TableArt {
  const images = [...new Set(table.frames.map(({ image }) => image))];
  // A file of a pack names pictures in its own folder; a table that was made of files has their paths.
  const { pack } = isNumbered(path) ? {} : (inPack(path) ?? {});
  const found = pack === undefined ? images : images.map((image) => image && packFolder(pack) + image);
  return { images: found, art: new Map([...rigs].map(([id, rig]) => [id, artOf(path, table, rig, images)])) };
}

const corner = { x: 0, y: 0 };

function artOf(path: string, table: FramesSource, rig: Rig, images: TableArt["images"]): LayerArt {
  const size = table.size === undefined ? rig.frame : { width: table.size[0], height: table.size[1] };
  const { x, y } = table.origin === undefined ? rig.origin : readPoint(table.origin);
  const at = { x: rig.origin.x - x, y: rig.origin.y - y };
  const cells = images.map((): Rectangle[] => []);
  const numbers = new Map<string, number>();
  const frames = new Map<string, Map<string, (DrawnFrame | undefined)[]>>();
  for (const { animation = "", facing = "", frame, image, rect, offset } of table.frames) {
    const byFacing = getOrInsert(frames, animation, () => new Map<string, (DrawnFrame | undefined)[]>());
    const count = rig.animations.get(animation)?.frames ?? 1;
    const list = getOrInsert(byFacing, facing, () => new Array<DrawnFrame | undefined>(count).fill(undefined));
    if (rect[2] * rect[3] === 0) continue;
    const picture = images.indexOf(image);
    const cell = getOrInsert(
      numbers,
      `${picture} ${rect.join()}`,
      () => (cells[picture]?.push(readRectangle(rect)) ?? 1) - 1,
    );
    const drawn = { picture, cell, size, trim: offset === undefined ? corner : readPoint(offset), at };
    if (frame === undefined) list.fill(drawn);
    else if (frame < count) list[frame] = drawn;
  }
  return { key: path, pictures: cells.map(cut), frames, grid: undefined };
}
