import { getOrInsert } from "../base/get-or-insert.ts";
import { drawnPart, drawnSize } from "../look/layer-art.ts";
import type { Cel } from "../look/look.ts";
import { CellPacker, type Cells, type Sheet } from "./sheet.ts";

/** A cell drawn at another size or turned: its pixels, and where they lie from the cel's upper left corner. */
export interface ChangedCell {
  readonly cells: Cells;
  readonly x: number;
  readonly y: number;
}

const kept = 256;

/**
 * The pixels of a cel that is scaled or turned: each takes the color of the pixel its middle falls on, so that no color is mixed.
 * First the cell is scaled (and, if it is flipped, mirrored), then turned around the middle of its pivot.
 */
export function changedCell(sheet: Sheet, cel: Cel): ChangedCell {
  const { width, height, rotation, pivot, flip, frame, layer } = cel;
  const box = boxOf(cel);
  const { cell, trim, size } = frame;
  const shape = [cell, trim.x, trim.y, size.width, size.height, layer.scale, width, height];
  const key = [...shape, rotation.toFixed(6), pivot.x, pivot.y, flip].join();
  if (sheet.changed.size >= kept && !sheet.changed.has(key)) sheet.changed.clear();
  return { cells: getOrInsert(sheet.changed, key, () => sample(sheet, cel, box)), x: box.left, y: box.top };
}

interface Box {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

/** The whole pixels a turned rectangle reaches, from its own upper left corner. */
function boxOf({ width, height, rotation, pivot }: Cel): Box {
  if (rotation === 0) return { left: 0, top: 0, right: width, bottom: height };
  const middle = { x: pivot.x + 0.5, y: pivot.y + 0.5 };
  const corners = [
    [0, 0],
    [width, 0],
    [0, height],
    [width, height],
  ].map(([x = 0, y = 0]) => ({
    x: middle.x + (x - middle.x) * Math.cos(rotation) - (y - middle.y) * Math.sin(rotation),
    y: middle.y + (x - middle.x) * Math.sin(rotation) + (y - middle.y) * Math.cos(rotation),
  }));
  return {
    left: Math.floor(Math.min(...corners.map(({ x }) => x))),
    top: Math.floor(Math.min(...corners.map(({ y }) => y))),
    right: Math.ceil(Math.max(...corners.map(({ x }) => x))),
    bottom: Math.ceil(Math.max(...corners.map(({ y }) => y))),
  };
}

function sample({ image, indexOf, table }: Sheet, cel: Cel, box: Box): Cells {
  const { source, frame, flip, rotation, pivot } = cel;
  const { size, trim } = frame;
  // Its blank edges count too: what is cut off must come out as what is whole.
  const whole = drawnSize(size, cel.layer.scale);
  const part = drawnPart(frame, source, whole);
  const left = flip ? whole.width - part.x - part.width : part.x;
  const pixels = new Uint32Array(image.data.buffer, image.data.byteOffset, image.width * image.height);
  const [cos, sin] = [Math.cos(rotation), Math.sin(rotation)];
  const packer = new CellPacker(table, (box.right - box.left) * (box.bottom - box.top));
  const row = new Uint32Array(box.right - box.left);
  for (let y = box.top; y < box.bottom; y += 1) {
    for (let x = box.left; x < box.right; x += 1) {
      const dx = x - pivot.x;
      const dy = y - pivot.y;
      const across = left + pivot.x + 0.5 + dx * cos + dy * sin;
      const down = part.y + pivot.y + 0.5 - dx * sin + dy * cos;
      const drawnX = Math.floor(((flip ? whole.width - across : across) * size.width) / whole.width) - trim.x;
      const drawnY = Math.floor((down * size.height) / whole.height) - trim.y;
      const isInside = drawnX >= 0 && drawnY >= 0 && drawnX < source.width && drawnY < source.height;
      const pictureX = source.x + drawnX;
      const pictureY = source.y + drawnY;
      const isThere = isInside && pictureX < image.width && pictureY < image.height;
      const color = isThere ? (pixels[pictureY * image.width + pictureX] ?? 0) : 0;
      row[x - box.left] = color >>> 24 === 0 ? 0 : (indexOf.get(color) ?? 0);
    }
    packer.addRow(y - box.top, row, 0, row.length);
  }
  packer.endCell();
  return packer.pack();
}
