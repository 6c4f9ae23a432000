import type { Recolor } from "../look/look.ts";
import { type Sheet, swapRedAndBlue } from "./sheet.ts";

/**
 * The color table of a sheet under a recolor and an opacity. Pixels of a key color take the color in its place; every other
 * pixel, and every pixel that is not opaque in the picture, keeps its own.
 */
export function recolorTable(sheet: Sheet, recolor: Recolor | undefined, opacity: number): Uint32Array {
  if (recolor === undefined && opacity === 1) return sheet.table;
  const table = sheet.table.slice();
  for (const [position, key] of (recolor?.key ?? []).entries()) {
    const index = sheet.indexOfColor.get(key);
    const color = recolor?.colors[position];
    if (index !== undefined && color !== undefined) table[index] = (0xff000000 | swapRedAndBlue(color)) >>> 0;
  }
  if (opacity === 1) return table;
  return table.map((rgba) => ((Math.round((rgba >>> 24) * opacity) << 24) | (rgba & 0xffffff)) >>> 0);
}
