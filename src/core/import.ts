/**
 * Brings art in: reads what artists hand over into one form, plans parts of a catalog from it, and shows them. For tools, and for pages on
 * which art is dropped; a game needs none of it.
 *
 * @module zealous-mantle/import
 */

export { type ContactOptions, contactSheet } from "./art/contact-sheet.ts";
export { type FilesOptions, readFiles } from "./art/files/read-files.ts";
export { findRecolors, type Recoloring } from "./art/find-recolors.ts";
export type { Found, FoundFrame, FoundLayer, FoundPart } from "./art/found.ts";
export { findRegions, type Region } from "./art/gaps/find-regions.ts";
export { type Figure, type Figures, type FiguresOptions, findFigures, readFigures } from "./art/gaps/read-figures.ts";
export { type DrawingOptions, readDrawing } from "./art/layered/read-drawing.ts";
export { nameId } from "./art/name-id.ts";
export type { NameOptions } from "./art/name-pattern.ts";
export {
  type ImportPlan,
  type PlannedLayer,
  type PlannedPart,
  type PlanOptions,
  planImport,
} from "./art/plan-import.ts";
export { readSheet, type SheetOptions } from "./art/sheet/read-sheet.ts";
export { readTable, type TableOptions } from "./art/table/read-table.ts";
