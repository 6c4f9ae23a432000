import type { Rectangle } from "../catalog/catalog.ts";
import type { SheetLayout } from "../look/sheet-layout.ts";
import { recall } from "../recall.ts";
import type { Image } from "./image.ts";

/**
 * A picture prepared for composing.
 *
 * Pixels are indices into a table of colors, so that a recolor is a new table and never a new picture. Every cell knows the
 * rectangle its visible pixels lie in, so that blank pixels cost nothing.
 */
export interface Sheet {
  readonly width: number;
  /** Row-major, one index a pixel; 8 bits wide whenever the picture has at most 256 colors. Index 0 is transparent. */
  readonly plane: Uint8Array | Uint32Array;
  /** Straight RGBA of each index, as `0xAABBGGRR`. */
  readonly table: Uint32Array;
  /** Indices by opaque color, `0xRRGGBB`. */
  readonly indexOfColor: ReadonlyMap<number, number>;
  /** The visible rectangle of each cell, relative to the cell; row-major; `undefined` for a blank cell. */
  readonly trims: readonly (Rectangle | undefined)[];
  readonly columns: number;
}

const prepared = new WeakMap<Image, Map<string, Sheet>>();

/** The prepared form of a picture under a layout, made on first use and kept as long as the picture. */
export function sheetOf(image: Image, layout: SheetLayout): Sheet {
  const sheets = recall(prepared, image, () => new Map<string, Sheet>());
  const key = `${layout.columns}x${layout.rows}@${layout.cell.width}x${layout.cell.height}`;
  return recall(sheets, key, () => prepareSheet(image, layout));
}

function prepareSheet(image: Image, layout: SheetLayout): Sheet {
  const pixels = new Uint32Array(image.data.buffer, image.data.byteOffset, image.width * image.height);
  const wide = new Uint32Array(pixels.length);
  const colors: number[] = [0];
  const indexOf = new Map<number, number>();
  const bounds = Array.from({ length: layout.columns * layout.rows }, () => ({
    left: Infinity,
    top: Infinity,
    right: -1,
    bottom: -1,
  }));
  for (let y = 0; y < image.height; y += 1) {
    const row = Math.floor(y / layout.cell.height);
    for (let x = 0; x < image.width; x += 1) {
      const rgba = pixels[y * image.width + x] as number;
      if (rgba >>> 24 === 0) continue;
      let index = indexOf.get(rgba);
      if (index === undefined) {
        index = colors.push(rgba) - 1;
        indexOf.set(rgba, index);
      }
      wide[y * image.width + x] = index;
      const column = Math.floor(x / layout.cell.width);
      const bound = column < layout.columns ? bounds[row * layout.columns + column] : undefined;
      if (bound === undefined) continue;
      bound.left = Math.min(bound.left, x - column * layout.cell.width);
      bound.right = Math.max(bound.right, x - column * layout.cell.width);
      bound.top = Math.min(bound.top, y - row * layout.cell.height);
      bound.bottom = Math.max(bound.bottom, y - row * layout.cell.height);
    }
  }
  const opaque = [...indexOf]
    .filter(([rgba]) => rgba >>> 24 === 255)
    .map(([rgba, index]) => [swapRedAndBlue(rgba), index] as const);
  return {
    width: image.width,
    plane: colors.length <= 256 ? Uint8Array.from(wide) : wide,
    table: Uint32Array.from(colors),
    indexOfColor: new Map(opaque),
    trims: bounds.map(({ left, top, right, bottom }) =>
      right < 0 ? undefined : { x: left, y: top, width: right - left + 1, height: bottom - top + 1 },
    ),
    columns: layout.columns,
  };
}

/** `0x..BBGGRR` to `0xRRGGBB`, and back. */
export function swapRedAndBlue(color: number): number {
  return ((color & 0xff) << 16) | (color & 0xff00) | ((color >> 16) & 0xff);
}
