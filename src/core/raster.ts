/**
 * Frames and pixels, for who draws with an engine of their own: what a look shows at a moment, pictures, baked sheets with their tables, atlases, and PNG. Plain
 * data, in a browser, a worker or Node.
 *
 * @module zealous-mantle/raster
 */

// Colors: ramps, and what colors a layer
export { fitRamp, type MakeRampOptions, makeRamp } from "./base/color/ramp.ts";
// Frames: what a look shows, where and when
export { celsAt } from "./look/cels-at.ts";
export {
  animationOf,
  durationOf,
  eventsBetween,
  frameAt,
  hasEnded,
  keepPose,
  type TimedFrame,
  timedFrames,
} from "./look/moments.ts";
// Atlases: pages of pixels that all looks share
export type { MomentsOptions } from "./look/moments-of.ts";
export { pointAt } from "./look/point-at.ts";
export { recolorFor } from "./look/recolor-for.ts";
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
export { partBounds } from "./raster/hit-test.ts";
// Pictures: made, cut, put together
export { createImage, cropImage, enlargeImage, pasteImage } from "./raster/image.ts";
export { type Atlas, type AtlasFrame, type AtlasOptions, openAtlas } from "./raster/open-atlas.ts";
// PNG: pictures in and out
export { decodePng } from "./raster/png/decode-png.ts";
export { encodeApng, type TimedImage } from "./raster/png/encode-apng.ts";
export { encodePng } from "./raster/png/encode-png.ts";
export { type SheetTableOptions, sheetTable } from "./raster/sheet-table.ts";
