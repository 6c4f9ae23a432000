/**
 * Pages of pixels shared by all looks that are shown, filled when a frame is first asked for: what engines draw crowds from.
 *
 * @module zealous-mantle/atlas
 */

export type { MomentsOptions } from "./look/moments-of.ts";
export type { AtlasPage } from "./raster/atlas-page.ts";
export { type Atlas, type AtlasFrame, type AtlasOptions, openAtlas } from "./raster/open-atlas.ts";
