/**
 * A catalog at a glance, while a game is made: what was drawn, and few characters on which everything is seen together that can be. Plain data, in a browser, a worker
 * or Node.
 *
 * @module zealous-mantle/survey
 */

// What changed from one version to the next
export { type CharacterChange, compareCharacter } from "./survey/compare/compare-characters.ts";
export { comparePictures, type PictureDifference } from "./survey/compare/compare-pictures.ts";
export { compareSources, type EntryChange, type KeyChange } from "./survey/compare/compare-sources.ts";
// What was drawn, of every part on every body
export { type Coverage, type PartCoverage, surveyCoverage } from "./survey/coverage.ts";
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
export type { Company, Item } from "./survey/pairwise/items.ts";
// Every two parts together that can be, on few characters
export { type PairwiseCover, type PairwiseOptions, pairwiseCover } from "./survey/pairwise/pairwise-cover.ts";
export type { IncompatibleSet } from "./survey/pairwise/why-apart.ts";
export { type Relation, relationsOf } from "./survey/relations.ts";
