/**
 * Zealous Mantle while a game is made: bring art in, survey a catalog, find points in pictures, compare versions. Everything here is plain data, too, and
 * works in a browser, a worker or Node.
 *
 * @module zealous-mantle/authoring
 */

export { type ContactOptions, contactSheet } from "./art/contact-sheet.ts";
export { type FilesOptions, readFiles } from "./art/files/read-files.ts";
export { findRecolors, type Recoloring } from "./art/find-recolors.ts";
export type { Found, FoundFrame, FoundLayer, FoundPart } from "./art/found.ts";
export { findRegions, type Region } from "./art/gaps/find-regions.ts";
export { type Figure, type Figures, type FiguresOptions, findFigures, readFigures } from "./art/gaps/read-figures.ts";
export type { ArtOptions, ArtSetting } from "./art/importer.ts";
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
export { readArt } from "./art/read-art.ts";
export { readSheet, type SheetOptions } from "./art/sheet/read-sheet.ts";
export { readTable, type TableOptions } from "./art/table/read-table.ts";
export { listPaths, type Paths } from "./catalog/list-paths.ts";
// Points: found in marker pictures once, and kept beside the catalog
export { extractPoints, type PointImage, pointImages } from "./catalog/read/point-images.ts";
export { checkArt } from "./look/check-art.ts";
export { type FrameFile, type NeededTable, neededTables, tableOfFiles } from "./look/needed-tables.ts";
// Rules and conditions as sentences
export { conditionMessage } from "./rules/condition-message.ts";
export { ruleMessages } from "./rules/spoken-kinds.ts";
export { checkCreation } from "./survey/check-creation.ts";
export { checkPresets } from "./survey/check-presets.ts";
// What changed from one version to the next
export { type CharacterChange, compareCharacter } from "./survey/compare/compare-characters.ts";
export { comparePictures, type PictureDifference } from "./survey/compare/compare-pictures.ts";
export { compareSources, type EntryChange, type KeyChange } from "./survey/compare/compare-sources.ts";
// What a pack changes
export { mergedSources } from "./survey/compare/merged-sources.ts";
// What was drawn, of every part on every body
export { type Coverage, type PartCoverage, surveyCoverage } from "./survey/coverage.ts";
export { excludedByPacks } from "./survey/excluded-by-packs.ts";
// Why a figure looks as it does, and what rules make of parts
export {
  type ExplainedForm,
  type ExplainedLayer,
  type ExplainedLook,
  type ExplainedMesh,
  type ExplainedRule,
  type ExplainOptions,
  explainLook,
} from "./survey/explain-look.ts";
export { type Fallback, findFallbacks } from "./survey/find-fallbacks.ts";
export type { Company, Item } from "./survey/pairwise/items.ts";
// Every two parts together that can be, on few characters
export { type PairwiseCover, type PairwiseOptions, pairwiseCover } from "./survey/pairwise/pairwise-cover.ts";
export type { IncompatibleSet } from "./survey/pairwise/why-apart.ts";
export { type Relation, relationsOf } from "./survey/relations.ts";
export { type ArtProblem, type SurveyArtOptions, surveyArt } from "./survey/survey-art.ts";
// Catalog: what can come to nothing
export { type RuleProblem, type RuleSurvey, type SurveyOptions, surveyRules } from "./survey/survey-rules.ts";
