import { fromOklab, mixOklab, toOklab } from "../base/color/color.ts";
import type { Recolor } from "../look/look.ts";
import { type Sheet, swapRedAndBlue } from "./sheet.ts";

/**
 * The color table of a sheet under a recolor and an opacity.
 *
 * A channel matched by key: pixels of a key color take the color in its place; every other pixel keeps its own, and so does every pixel
 * that is not opaque in the picture, unless the channel is a `soft-key`. A channel matched by luminance: every pixel takes the color that
 * stands where its lightness in OKLab lies between those of the key colors. A tint: every pixel is multiplied by the last color. All
 * keep their alpha.
 */
export function recolorTable(sheet: Pick<Sheet, "table">, recolor: Recolor | undefined, opacity: number): Uint32Array {
  if (recolor === undefined && opacity === 1) return sheet.table;
  const table = sheet.table.slice();
  if (recolor !== undefined) {
    const shade = shadeOf(recolor);
    for (let index = 1; index < table.length; index += 1) {
      const color = table[index] ?? 0;
      if (recolor.match === "key" && color >>> 24 < 255) continue;
      table[index] = ((color & 0xff000000) | swapRedAndBlue(shade(swapRedAndBlue(color)))) >>> 0;
    }
  }
  if (opacity === 1) return table;
  return table.map((rgba) => ((Math.round((rgba >>> 24) * opacity) << 24) | (rgba & 0xffffff)) >>> 0);
}

/** What takes the place of a color, `0xRRGGBB`, whatever its alpha. */
function shadeOf(recolor: Recolor): (color: number) => number {
  const { key, colors, match } = recolor;
  if (match === "luminance") return shadesOf(recolor);
  if (match !== "tint") return (color) => colors[key.indexOf(color)] ?? color;
  const tint = colors.at(-1) ?? 0xffffff;
  const part = (color: number, shift: number) =>
    Math.round((((color >> shift) & 255) * ((tint >> shift) & 255)) / 255) << shift;
  return (color) => part(color, 16) | part(color, 8) | part(color, 0);
}

/** The color that takes the place of another, by lightness: between its two neighbors in the key, on a straight line in OKLab. */
function shadesOf({ key, colors }: Recolor): (color: number) => number {
  const steps = key
    .map((each, at) => ({ light: toOklab(each).l, color: toOklab(colors[at] ?? 0) }))
    .toSorted((one, other) => one.light - other.light);
  return (color) => {
    const { l } = toOklab(color);
    const after = steps.findIndex(({ light }) => light >= l);
    const high = steps[after] ?? steps.at(-1);
    const low = after > 0 ? steps[after - 1] : high;
    if (high === undefined || low === undefined) return color;
    const part = high.light === low.light ? 0 : Math.min(1, Math.max(0, (l - low.light) / (high.light - low.light)));
    return fromOklab(mixOklab(low.color, high.color, part));
  };
}
