import { fromOklab, mixOklab, toOklab } from "../base/color/color.ts";
import type { Recolor } from "../look/look.ts";
import { type Sheet, swapRedAndBlue } from "./sheet.ts";

/**
 * The color table of a sheet under a recolor and an opacity.
 *
 * A channel matched by key: pixels of a key color take the color in its place; every other pixel, and every pixel that is not
 * opaque in the picture, keeps its own. A channel matched by luminance: every pixel takes the color that stands where its
 * lightness in OKLab lies between those of the key colors, and keeps its own alpha.
 */
export function recolorTable(
  sheet: Pick<Sheet, "table" | "indexOf">,
  recolor: Recolor | undefined,
  opacity: number,
): Uint32Array {
  if (recolor === undefined && opacity === 1) return sheet.table;
  const table = sheet.table.slice();
  if (recolor?.match === "key") {
    for (const [position, key] of recolor.key.entries()) {
      const index = sheet.indexOf.get((0xff000000 | swapRedAndBlue(key)) >>> 0);
      const color = recolor.colors[position];
      if (index !== undefined && color !== undefined) table[index] = (0xff000000 | swapRedAndBlue(color)) >>> 0;
    }
  }
  if (recolor?.match === "luminance") {
    const shade = shadesOf(recolor);
    for (let index = 1; index < table.length; index += 1) {
      const color = table[index] ?? 0;
      table[index] = ((color & 0xff000000) | swapRedAndBlue(shade(swapRedAndBlue(color)))) >>> 0;
    }
  }
  if (opacity === 1) return table;
  return table.map((rgba) => ((Math.round((rgba >>> 24) * opacity) << 24) | (rgba & 0xffffff)) >>> 0);
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
