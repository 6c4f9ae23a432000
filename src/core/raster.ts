/**
 * Pixels in files and pages: baked sheets with their tables, atlases for engines, and PNG. Plain data, in a browser, a worker or Node.
 *
 * @module zealous-mantle/raster
 */

// Atlases: pages of pixels that all looks share
export type { MomentsOptions } from "./look/moments-of.ts";
export type { AtlasPage } from "./raster/atlas-page.ts";
// Sheets: every frame of a look in one picture, with a table
export {
  type BakedFrame,
  type BakedSheet,
  type BakeOptions,
  type BakePagesOptions,
  bakeSheet,
  bakeSheets,
  type FrameTable,
} from "./raster/bake-sheet.ts";
export { contentHash, marksFile } from "./raster/content-hash.ts";
export { type Atlas, type AtlasFrame, type AtlasOptions, openAtlas } from "./raster/open-atlas.ts";
// PNG: pictures in and out
export { decodePng } from "./raster/png/decode-png.ts";
export { encodeApng, type TimedImage } from "./raster/png/encode-apng.ts";
export { encodePng } from "./raster/png/encode-png.ts";
export { type SheetTableOptions, sheetTable } from "./raster/sheet-table.ts";
