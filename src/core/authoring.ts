/**
 * Zealous Mantle while a game is made: survey a catalog, find points in pictures, bake sheets, read and write PNG. Everything here
 * is plain data, too, and works in a browser, a worker or Node.
 *
 * @module zealous-mantle/authoring
 */

export { listPaths, type Paths } from "./catalog/list-paths.ts";
// Points: found in marker pictures once, and kept beside the catalog
export { extractPoints, type PointImage, pointImages } from "./catalog/read/point-images.ts";
export { checkArt } from "./look/check-art.ts";
export { type FrameFile, type NeededTable, neededTables, tableOfFiles } from "./look/needed-tables.ts";
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
// PNG: pictures in and out
export { decodePng } from "./raster/png/decode-png.ts";
export { encodeApng, type TimedImage } from "./raster/png/encode-apng.ts";
export { encodePng } from "./raster/png/encode-png.ts";
export { type SheetTableOptions, sheetTable } from "./raster/sheet-table.ts";
export { checkCreation } from "./survey/check-creation.ts";
export { checkPresets } from "./survey/check-presets.ts";
export { type Fallback, findFallbacks } from "./survey/find-fallbacks.ts";
export { type ArtProblem, type SurveyArtOptions, surveyArt } from "./survey/survey-art.ts";
// Catalog: what can come to nothing
export { type RuleProblem, type RuleSurvey, type SurveyOptions, surveyRules } from "./survey/survey-rules.ts";
